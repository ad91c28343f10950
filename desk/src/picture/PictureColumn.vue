<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Part } from '../shared/api'
import { layout } from '../shared/live'
import PartControls from '../shared/PartControls.vue'
import { useShow } from '../shared/show'
import { signalColour } from '../shared/tokens'
import Trace from '../shared/Trace.vue'
import { Block } from '../shared/wire'
import PictureView from './PictureView.vue'

const show = useShow()
const size = ref('')
const rate = ref(0)
const chosen = ref('')

interface Step { part: Part; path: string; title: string; family: string }
const chain = computed<Step[]>(() => {
  const look = show.look
  if (!look) return []
  const steps: Step[] = []
  const push = (part: Part, path: string): void => { steps.push({ part, path, title: show.kind(part.kind)?.title ?? part.kind, family: show.kind(part.kind)?.family ?? '' }) }
  for (const layer of look.layers ?? []) {
    const path = `/looks/${look.id}/layers/${layer.id}`
    push(layer.source, `${path}/source`)
    layer.effects?.forEach((part) => push(part, `${path}/effects/${part.id}`))
    push(layer.mix, `${path}/mix`)
  }
  look.finish?.forEach((part) => push(part, `/looks/${look.id}/finish/${part.id}`))
  return steps
})
const step = computed(() => chain.value.find((one) => one.part.id === chosen.value) ?? chain.value[0])
const moving = (part: Part): boolean => (show.document?.routes ?? []).some((route) => route.target.startsWith(`${part.id}.`) && !route.muted)
const movers = computed(() => (show.document?.routes ?? []).flatMap((route, place) => {
  if (!chain.value.some((one) => route.target.startsWith(`${one.part.id}.`))) return []
  const signal = show.signals.get(route.signal)
  return [{ route, place, name: signal?.name ?? 'What is gone', colour: signalColour(signal?.pitch) }]
}))
const SAYS: Record<string, string> = { source: 'makes light', effect: 'changes it', layering: 'lays it down' }
</script>

<template>
  <div class="top row">
    <h2>Picture</h2>
    <span>{{ show.look?.name }}</span>
    <span class="grow" />
    <span class="soft">inner size <span class="num">{{ size }}</span> · <span class="num">{{ rate.toFixed(0) }}</span> drawn/s · {{ layout?.slots.length }} parameters</span>
  </div>
  <div class="body">
    <div class="left">
      <PictureView @size="(text) => (size = text)" @drawn="(per) => (rate = per)" />
      <ol class="chain" aria-label="From source to screen">
        <li v-for="one in chain" :key="one.part.id">
          <button class="step" :class="{ chosen: one === step, off: !one.part.on }" @click="chosen = one.part.id">
            <strong>{{ one.title }}</strong><small>{{ one.part.on ? SAYS[one.family] : 'off' }}<i v-if="moving(one.part)" class="dot" title="Something moves it" /></small>
          </button>
        </li>
      </ol>
      <div v-if="movers.length" class="movers">
        <div v-for="one in movers" :key="one.route.id" class="mover">
          <span><b :style="{ color: one.colour }">{{ one.name }}</b> moves {{ show.targetName(one.route.target) }}</span>
          <div class="trace"><Trace :key="one.place" :block="Block.routes" :index="one.place * 2 + 1" :low="Math.min(one.route.low, one.route.high)" :high="Math.max(one.route.low, one.route.high)" :colour="one.colour" label="What moves it" /></div>
        </div>
      </div>
      <p v-else class="soft">No route moves this look yet. Open Route (2) and make one.</p>
    </div>
    <aside class="scroll">
      <template v-if="step">
        <div class="row about">
          <h2>{{ step.title }}</h2>
          <span class="grow" />
          <button v-if="step.family === 'effect'" class="button" :class="{ on: step.part.on }" @click="show.set(`${step.path}/on`, !step.part.on, `${step.title} ${step.part.on ? 'off' : 'on'}`)">{{ step.part.on ? 'On' : 'Off' }}</button>
        </div>
        <p class="soft">{{ show.kind(step.part.kind)?.help }}</p>
        <PartControls :key="step.part.id" :part="step.part" :path="step.path" :columns="1" />
      </template>
      <p v-else class="soft">This show has no look yet.</p>
    </aside>
  </div>
</template>

<style scoped>
.top { min-height: 34px }
.body { flex: 1; display: flex; gap: 14px; min-height: 0 }
.left { flex: 1; min-width: 0; display: flex; flex-direction: column; gap: 12px }
.movers { flex: 1; min-height: 0; display: flex; gap: 12px }
.mover { flex: 1; min-width: 0; display: flex; flex-direction: column; gap: 4px; font-size: 14px; max-height: 210px }
.mover span { white-space: nowrap; overflow: hidden; text-overflow: ellipsis } .trace { flex: 1; min-height: 30px }
aside { width: 306px; padding-right: 6px }
aside p { margin: 2px 0 8px; font-size: 14px }
.about { min-height: 34px }
.chain { list-style: none; display: flex; gap: 0; margin: 0; padding: 0; flex-wrap: wrap }
.chain li { flex: 1; min-width: 110px }
.step { width: 100%; min-height: 56px; text-align: left; padding: 8px 12px; background: var(--raised); border: 1px solid var(--edge); border-left-width: 0; cursor: pointer; color: inherit; border-bottom: 3px solid var(--edge) }
.chain li:first-child .step { border-left-width: 1px; border-radius: 8px 0 0 8px } .chain li:last-child .step { border-radius: 0 8px 8px 0 }
.step.chosen { border-bottom-color: var(--hand); background: var(--ground) } .step.off strong { text-decoration: line-through; color: var(--soft) }
.step strong, .step small { display: block } .step small { color: var(--soft); font-size: 13px }
.dot { display: inline-block; width: 8px; height: 8px; border-radius: 50%; background: var(--bolt); margin-left: 7px }
</style>
