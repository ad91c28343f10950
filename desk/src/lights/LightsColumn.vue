<script setup lang="ts">
import { computed, ref } from 'vue'
import { state, useFrames } from '../shared/live'
import PartControls from '../shared/PartControls.vue'
import { useShow } from '../shared/show'
import { Block, type Packet } from '../shared/wire'
import { encode } from './light'

const show = useShow()
const bulbs = ref<HTMLElement[]>([])
const words = ref<HTMLElement[]>([])
const lamps = computed(() => show.document?.lamps ?? [])
const output = computed(() => show.document!.light_output!)
const lights = computed(() => state.value.lights)

function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.lamps)
  if (!values) return
  lamps.value.forEach((_, i) => {
    const rgb = [0, 1, 2].map((c) => values[i * 3 + c] ?? 0)
    const colour = `rgb(${rgb.map(encode).join()})`
    if (bulbs.value[i]) { bulbs.value[i]!.style.background = colour; bulbs.value[i]!.style.boxShadow = `0 0 ${Math.round(60 * Math.max(...rgb))}px ${colour}` }
    if (words.value[i]) words.value[i]!.textContent = rgb.map((v) => String(Math.round(v * 255)).padStart(3, ' ')).join(' ')
  })
}
useFrames([Block.lamps], { paint })
function setNumber(path: string, event: Event, name: string): void { show.set(path, Number((event.target as HTMLInputElement).value), name) }
</script>

<template>
  <div class="top row">
    <h2>Lights</h2>
    <span class="grow" />
    <span class="soft"><span class="num">{{ lights?.sent ?? 0 }}</span> packets sent</span>
  </div>
  <div class="body scroll">
    <article v-for="lamp in lamps" :key="lamp.id" class="card lamp" :data-lamp="lamp.id">
      <div class="stage"><div ref="bulbs" class="bulb" /><span ref="words" class="num soft values" aria-label="Channel values" /></div>
      <div class="grow">
        <div class="row"><strong>{{ lamp.name }}</strong><span class="soft">{{ show.kind(lamp.fixture.kind)?.title }}</span><span class="grow" />
          <label class="soft">Universe <input class="field num" type="number" min="1" max="63999" :value="lamp.universe" @change="setNumber(`/lamps/${lamp.id}/universe`, $event, 'Universe')" /></label>
          <label class="soft">Address <input class="field num" type="number" min="1" max="510" :value="lamp.address" @change="setNumber(`/lamps/${lamp.id}/address`, $event, 'Address')" /></label>
        </div>
        <PartControls :part="lamp.fixture" :path="`/lamps/${lamp.id}/fixture`" :columns="1" />
      </div>
    </article>
    <p v-if="!lamps.length" class="card soft">Lamps of this show will be listed here.</p>
    <article class="card">
      <div class="row wrap">
        <strong>On the wire</strong>
        <span class="soft">sACN (ANSI E1.31), at most 44 frames a second for each universe</span>
        <span class="grow" />
        <button class="button" :class="{ on: output.on }" @click="show.set('/light_output/on', !output.on, output.on ? 'Stop sending' : 'Send')">{{ output.on ? 'Sending' : 'Not sending' }}</button>
      </div>
      <div class="row wrap">
        <label class="soft">To <input class="field num wide" :value="output.host" @change="show.set('/light_output/host', ($event.target as HTMLInputElement).value, 'Light network')" /></label>
        <label class="soft">Port <input class="field num" type="number" min="1" max="65535" :value="output.port" @change="setNumber('/light_output/port', $event, 'Port')" /></label>
        <label class="soft">Priority <input class="field num" type="number" min="0" max="200" :value="output.priority" @change="setNumber('/light_output/priority', $event, 'Priority')" /></label>
      </div>
      <p v-if="lights?.trouble" class="bad" role="alert">{{ lights.trouble }}</p>
      <p v-else class="soft">The lamps above show what is sent. The stand-in light node (its address was printed at the start) shows what arrives.</p>
    </article>
  </div>
</template>

<style scoped>
.top { min-height: 34px; margin-bottom: 6px }
.body { flex: 1; display: flex; flex-direction: column; gap: 10px } .body > * { flex: none }
.lamp { display: flex; gap: 26px; padding: 20px }
.stage { width: 190px; display: grid; place-items: center; gap: 14px; background: var(--ground); border-radius: 8px; padding: 36px 0 14px }
.bulb { width: 104px; height: 104px; border-radius: 50%; border: 2px solid var(--edge) }
.values { white-space: pre; font-size: 15px }
.field { width: 76px; min-height: 34px; background: var(--ground); border: 1px solid var(--edge-strong); border-radius: 6px; padding: 0 8px } .field.wide { width: 150px }
.wrap { flex-wrap: wrap; margin-bottom: 8px } p { margin: 4px 0 0 } .bad { color: var(--alarm) }
</style>
