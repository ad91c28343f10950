<script setup lang="ts">
// Always in sight: is there sound, how loud, where is the beat, how fast, and the two great levers.
import { computed } from 'vue'
import { state } from '../live/live'
import { outputStates } from '../live/outputs'
import { MAIN, useShow } from '../live/show'
import GuardStrip from '../send/GuardStrip.vue'
import BeatLamps from './BeatLamps.vue'
import Blackout from './Blackout.vue'
import LevelMeter from './LevelMeter.vue'
import Lever from './Lever.vue'

const emit = defineEmits<{ shows: [] }>()
const show = useShow()
const input = computed(() => {
  const main = show.mainInput
  switch (main?.use) {
    case 'track':
      return show.tracks.find((track) => track.id === main.track?.track)?.title ?? 'No track'
    case 'film':
      return 'Film'
    case 'house':
      return 'House band'
    case 'device':
      return main.device?.device || 'Device'
    default:
      return 'Live'
  }
})
// Where the picture goes: the first output that somebody should look after, or how many are looked at.
const trouble = computed(() => Object.values(outputStates.value).find((each) => each.trouble))
const sent = computed(() => {
  const looked = Object.values(outputStates.value).filter((each) => each.pages > 0).length
  return trouble.value?.words ?? (looked ? `${looked} outputs are looked at` : 'Opens the first output')
})
const fault = computed(() => state.value.inputs?.[MAIN]?.fault?.text ?? '')
const gain = computed(() => show.mainInput?.gain_db ?? 0)
const gainSays = computed(() => `${gain.value > 0 ? '+' : ''}${gain.value.toFixed(1)}`)
const amount = computed(() => show.document?.sound_amount ?? 1)
</script>

<template>
  <header class="strip">
    <button class="button plain name" title="Shows" @click="emit('shows')">
      <svg width="18" height="24" viewBox="0 0 18 24" aria-hidden="true">
        <path d="M11 0 1 14h6l-2 10L17 9h-7z" fill="var(--bolt)" />
      </svg>
      <strong>{{ show.document?.name }}</strong>
    </button>
    <span
      v-tooltip.bottom="fault || 'What the show listens to'"
      class="input"
      :class="{ bad: fault }"
      data-testid="input-name"
      >{{ fault ? 'No sound' : input }}</span
    >
    <LevelMeter />
    <Lever
      title="Gain"
      name="Gain"
      unit="dB"
      path="/inputs/main/gain_db"
      :says="gainSays"
      :value="gain"
      :low="-40"
      :high="40"
      :step="0.5"
      :key-step="0.5"
      :rest="0"
    />
    <BeatLamps />
    <Lever
      v-tooltip.bottom="'How much all routes act'"
      title="Sound"
      name="Sound amount"
      unit="%"
      path="/sound_amount"
      :says="String(Math.round(amount * 100))"
      :value="amount"
      :low="0"
      :high="1"
      :step="0.01"
      :key-step="0.05"
    />
    <span class="grow" />
    <button
      v-tooltip.bottom="show.undoName ? `Undo: ${show.undoName}` : 'Nothing to undo'"
      class="button square"
      :disabled="!show.undoName"
      :aria-label="`Undo ${show.undoName}`"
      @click="show.step('undo')"
    >
      <i class="pi pi-undo" />
    </button>
    <button
      v-tooltip.bottom="show.redoName ? `Redo: ${show.redoName}` : 'Nothing to redo'"
      class="button square"
      :disabled="!show.redoName"
      :aria-label="`Redo ${show.redoName}`"
      @click="show.step('redo')"
    >
      <i class="pi pi-refresh" />
    </button>
    <GuardStrip short />
    <a
      v-tooltip.bottom="sent"
      class="button"
      :class="{ danger: trouble }"
      href="/output"
      target="fulgura-output"
      >Output <i class="pi pi-external-link"
    /></a>
    <Blackout />
  </header>
</template>

<style scoped>
.strip {
  display: flex;
  align-items: center;
  gap: 9px;
  height: 50px;
  padding: 0 10px 0 6px;
  white-space: nowrap;
  overflow: hidden;
}
.name {
  padding: 0 6px;
  max-width: 180px;
}
.name strong {
  overflow: hidden;
  text-overflow: ellipsis;
}
.input {
  color: var(--soft);
  max-width: 92px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.input.bad {
  color: var(--alarm);
}
.square {
  padding: 0;
  width: 34px;
  justify-content: center;
}
</style>
