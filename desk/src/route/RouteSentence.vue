<script setup lang="ts">
// A route as a sentence between two live traces: what comes in, and what comes out on the parameter's own scale.
import { computed } from 'vue'
import type { Part, Route } from '../shared/api'
import { state } from '../shared/live'
import NumberChip from '../shared/NumberChip.vue'
import Trace from '../shared/Trace.vue'
import { useShow } from '../shared/show'
import { signalColour } from '../shared/tokens'
import { Block } from '../shared/wire'

const props = defineProps<{ route: Route; place: number }>()
const show = useShow()
const path = computed(() => `/routes/${props.route.id}`)
const signal = computed(() => show.signals.get(props.route.signal))
const slot = computed(() => show.slots.get(props.route.target))
const parameter = computed(() => slot.value?.parameter)
const low = computed(() => parameter.value?.low ?? 0)
const high = computed(() => parameter.value?.high ?? 1)
const colour = computed(() => signalColour(signal.value?.pitch))
const why = computed(() => state.value.why?.[props.route.id] ?? '')
const shapers = computed(() => props.route.shapers ?? [])
const bracket = computed<[number, number] | null>(() => {
  const range = shapers.value.find((one) => one.kind === 'range' && one.on)
  const gate = shapers.value.find((one) => one.kind === 'gate' && one.on)
  if (range) return [value(range, 'low'), value(range, 'high')]
  return gate ? [value(gate, 'threshold'), value(gate, 'threshold')] : null
})
// A quiet signal is shown large enough to see; the scale is written beside it.
const top = computed(() => Math.min(1, Math.max(0.25, ...(bracket.value ?? [1]).map((edge) => edge * 1.3))))
const value = (part: Part, name: string): number => Number((part.values as Record<string, unknown>)[name])

const WORDS: Record<string, string> = { range: 'from', smooth: 'smooth', gate: 'only above', curve: 'bent by', gain: 'times' }
const SHOWN: Record<string, string[]> = { range: ['low', 'high'], smooth: ['attack', 'release'], gate: ['threshold'], curve: ['gamma'], gain: ['gain', 'offset'] }
const addable = computed(() => show.kinds.filter((kind) => kind.family === 'shaper'))
const numbers = (part: Part) => (show.kind(part.kind)?.parameters ?? []).filter((one) => (SHOWN[part.kind] ?? []).includes(one.name))

function setShaper(part: Part, name: string, to: number, gesture: string): void {
  show.set(`${path.value}/shapers/${part.id}/values/${name}`, to, `Route ${part.kind}`, gesture)
}
function pull(which: 0 | 1, to: number, gesture: string): void {
  const part = shapers.value.find((one) => one.kind === 'range' && one.on) ?? shapers.value.find((one) => one.kind === 'gate')
  if (part) setShaper(part, part.kind === 'range' ? (['low', 'high'] as const)[which] : 'threshold', Math.round(to * 1000) / 1000, gesture)
}
function add(event: Event): void {
  const select = event.target as HTMLSelectElement
  const kind = select.value
  select.value = ''
  let id = kind
  for (let n = 2; shapers.value.some((one) => one.id === id); n++) id = `${kind}-${n}`
  show.edit({ edit: 'add', path: `${path.value}/shapers`, item: { id, kind }, index: kind === 'range' ? 0 : null }, `Add ${kind}`)
}
</script>

<template>
  <article class="card" :class="{ muted: route.muted }" :data-route="route.id">
    <div class="trace"><Trace v-if="signal" :key="signal.index" :block="Block.signals" :index="signal.index" :low="0" :high="top" :colour="colour" :bracket="bracket" label="What comes in" @bracket="pull" /></div>
    <div class="words">
      <span class="signal" :style="{ color: colour, borderColor: colour }">{{ signal?.name ?? 'What is gone' }}</span>
      <template v-for="part in shapers" :key="part.id">
        <span>{{ WORDS[part.kind] ?? part.kind }}</span>
        <template v-for="(one, i) in numbers(part)" :key="one.name">
          <span v-if="i" class="soft">{{ part.kind === 'smooth' ? '/' : part.kind === 'gain' ? '+' : 'to' }}</span>
          <NumberChip :value="value(part, one.name)" :low="one.low!" :high="one.high!" :label="`${part.kind} ${one.title}`" :unit="one.unit && i === numbers(part).length - 1 ? one.unit : ''" @change="(to, gesture) => setShaper(part, one.name, to, gesture)" />
        </template>
        <button class="drop" :aria-label="`Remove ${part.kind}`" @click="show.edit({ edit: 'remove', path: `${path}/shapers/${part.id}` }, `Remove ${part.kind}`)">×</button>
      </template>
      <span class="soft">moves</span>
      <strong>{{ show.targetName(route.target) }}</strong>
      <template v-if="parameter">
        <NumberChip :value="route.low" :low="low" :high="high" label="Low end" @change="(to, gesture) => show.set(`${path}/low`, to, 'Route range', gesture)" />
        <span class="soft">to</span>
        <NumberChip :value="route.high" :low="low" :high="high" label="High end" :unit="parameter.unit" @change="(to, gesture) => show.set(`${path}/high`, to, 'Route range', gesture)" />
      </template>
    </div>
    <div class="out">
      <div class="trace"><Trace :key="place" :block="Block.routes" :index="place * 2 + 1" :low="Math.min(route.low, route.high) - (Math.abs(route.high - route.low) || 1) * 0.08" :high="Math.max(route.low, route.high) + (Math.abs(route.high - route.low) || 1) * 0.08" :colour="colour" label="What comes out" /></div>
    </div>
    <div class="tools">
      <button class="button" :class="{ on: route.muted }" :aria-pressed="route.muted" @click="show.set(`${path}/muted`, !route.muted, route.muted ? 'Unmute route' : 'Mute route')">{{ route.muted ? 'Muted' : 'Mute' }}</button>
      <select class="button" aria-label="Add a shaper" @change="add">
        <option value="">Shape…</option>
        <option v-for="kind in addable" :key="kind.kind" :value="kind.kind">{{ kind.title }}</option>
      </select>
      <button class="button plain" aria-label="Remove route" v-tooltip.top="'Remove this route (undo brings it back)'" @click="show.edit({ edit: 'remove', path }, 'Remove route')"><i class="pi pi-trash" /></button>
      <span class="grow" />
      <span v-if="why" class="why" role="status">{{ why }}</span>
    </div>
  </article>
</template>

<style scoped>
.card { display: grid; grid-template-columns: 170px minmax(0, 1fr) 170px; grid-template-rows: minmax(66px, 1fr) auto; gap: 6px 14px; padding: 10px 12px }
.trace { height: 100%; min-height: 66px; max-height: 150px }
.out { min-height: 0 }
.words { display: flex; flex-wrap: wrap; gap: 5px 7px; align-items: center; align-content: center }
.signal { font-weight: 700; border: 1.5px solid; border-radius: 6px; padding: 3px 9px }
.drop { background: none; border: 0; color: var(--soft); cursor: pointer; min-width: 20px; min-height: 32px; padding: 0; margin-left: -5px }
.drop:hover { color: var(--alarm) }
.tools { grid-column: 1 / -1; display: flex; gap: 8px; align-items: center }
.tools .button { min-height: 32px; padding: 0 10px }
.why { color: var(--bolt); font-size: 14px }
.muted .words, .muted .trace { opacity: .5 }
</style>
