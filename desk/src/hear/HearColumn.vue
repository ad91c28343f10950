<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Parameter } from '../shared/api'
import { hertz } from '../shared/format'
import ParameterControl from '../shared/ParameterControl.vue'
import { useShow } from '../shared/show'
import { signalColour } from '../shared/tokens'
import InputPanel from './InputPanel.vue'
import Score from './Score.vue'

const show = useShow()
const why = ref('')
const counts = computed(() => show.document?.hits ?? [])
const number = (name: string, title: string, unit: string, low: number, high: number, start: number, help: string): Parameter => ({ name, title, type: 'number', unit, low, high, default: start, choices: [], help, group: '' })
const SENSITIVITY = number('sensitivity', 'Sensitivity', '', 0, 1, 0.5, 'Higher catches softer hits')
const DEAD_TIME = number('dead_time_ms', 'Dead time', 'ms', 20, 1000, 120, 'After a hit, nothing is counted for this long')
</script>

<template>
  <div class="top row">
    <h2>Hear</h2>
    <span v-for="band in show.document?.bands" :key="band.id" class="num soft"><b :style="{ color: signalColour(show.signals.get(`band-${band.id}`)?.pitch) }">{{ band.name }}</b> {{ hertz(band.low_hz) }}–{{ hertz(band.high_hz) }}</span>
    <span class="grow" />
    <span class="soft">last 8 s</span>
  </div>
  <div class="body">
    <Score @reject="(text) => (why = text)" />
    <aside class="scroll">
      <InputPanel />
      <div v-for="hit in counts" :key="hit.id" class="card">
        <strong :style="{ color: signalColour(show.signals.get(`hit-${hit.id}`)?.pitch) }">{{ hit.id.charAt(0).toUpperCase() + hit.id.slice(1) }}</strong>
        <ParameterControl :parameter="SENSITIVITY" :value="hit.sensitivity" @change="(value, gesture) => show.set(`/hits/${hit.id}/sensitivity`, value, `${hit.id} sensitivity`, gesture)" />
        <ParameterControl :parameter="DEAD_TIME" :value="hit.dead_time_ms" @change="(value, gesture) => show.set(`/hits/${hit.id}/dead_time_ms`, value, `${hit.id} dead time`, gesture)" />
      </div>
    </aside>
  </div>
  <p class="why soft">{{ why || 'Drag a rail to move its band, pull its ends to widen it. Solid marks are counted hits; point at a hollow one to read why it was not.' }}</p>
</template>

<style scoped>
.top { gap: 18px; min-height: 34px }
.body { flex: 1; display: flex; gap: 10px; min-height: 0 }
aside { width: 236px; display: flex; flex-direction: column; gap: 8px; padding-right: 2px }
aside > * { flex: none }
.why { margin: 8px 0 0; font-size: 14px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis }
</style>
