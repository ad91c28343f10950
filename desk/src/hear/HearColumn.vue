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
const HIT_OF: Record<string, string> = { low: 'kick', mid: 'snare', high: 'hat' }
const chosen = ref('low')
const bands = computed(() => show.document?.bands ?? [])
const band = computed(() => bands.value.find((one) => one.id === chosen.value) ?? bands.value[0])
const hit = computed(() => show.document?.hits?.find((one) => one.id === HIT_OF[band.value?.id ?? '']))
const colour = (id: string): string => signalColour(show.signals.get(`band-${id}`)?.pitch)
const number = (name: string, title: string, unit: string, low: number, high: number, start: number, help: string): Parameter => ({ name, title, type: 'number', unit, low, high, default: start, choices: [], help, group: '' })
const SENSITIVITY = number('sensitivity', 'Sensitivity', '', 0, 1, 0.5, 'Higher catches softer hits')
const BAND = [
  number('gain_db', 'Gain', 'dB', -24, 24, 0, 'Makes this band count for more or less'),
  number('attack_ms', 'Attack', 'ms', 0, 2000, 0, 'Time to rise'),
  number('release_ms', 'Release', 'ms', 0, 5000, 120, 'Time to fall; longer than a beat never comes to rest'),
]
const DEAD_TIME = number('dead_time_ms', 'Dead time', 'ms', 20, 1000, 120, 'After a hit, nothing is counted for this long')
</script>

<template>
  <div class="top row">
    <h2>Hear</h2>
    <span v-for="one in bands" :key="one.id" class="num soft"><b :style="{ color: colour(one.id) }">{{ one.name }}</b> {{ hertz(one.low_hz) }}–{{ hertz(one.high_hz) }}</span>
    <span class="grow" />
    <span class="soft">last 8 s</span>
  </div>
  <div class="body">
    <Score @reject="(text) => (why = text)" />
    <aside class="scroll">
      <InputPanel />
      <div v-if="band" class="card">
        <div class="row pick" role="tablist" aria-label="Band">
          <button v-for="one in bands" :key="one.id" class="button grow" role="tab" :aria-selected="one.id === band.id" :class="{ chosen: one.id === band.id }" :style="{ color: colour(one.id) }" @click="chosen = one.id">{{ one.name }}</button>
        </div>
        <ParameterControl v-for="one in BAND" :key="band.id + one.name" :parameter="one" :value="(band as unknown as Record<string, number>)[one.name]!" @change="(value, gesture) => show.set(`/bands/${band!.id}/${one.name}`, value, `${band!.name} ${one.title.toLowerCase()}`, gesture)" />
        <template v-if="hit">
          <strong class="about" :style="{ color: colour(band.id) }">▼ {{ hit.id.charAt(0).toUpperCase() + hit.id.slice(1) }} hits</strong>
          <ParameterControl :key="hit.id + 's'" :parameter="SENSITIVITY" :value="hit.sensitivity" @change="(value, gesture) => show.set(`/hits/${hit!.id}/sensitivity`, value, `${hit!.id} sensitivity`, gesture)" />
          <ParameterControl :key="hit.id + 'd'" :parameter="DEAD_TIME" :value="hit.dead_time_ms" @change="(value, gesture) => show.set(`/hits/${hit!.id}/dead_time_ms`, value, `${hit!.id} dead time`, gesture)" />
        </template>
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
.pick { gap: 6px; margin-bottom: 6px } .pick .button { justify-content: center; padding: 0 } .chosen { border-color: currentColor; background: var(--ground) }
.about { display: block; margin-top: 8px }
.why { margin: 8px 0 0; font-size: 14px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis }
</style>
