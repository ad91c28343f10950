<script setup lang="ts">
// Always in sight: is there sound, how loud, where is the beat, how fast, and the two great levers.
import { computed, ref } from 'vue'
import { state, useFrames } from './shared/live'
import { MAIN, newGesture, useShow } from './shared/show'
import { Block, Status, type Packet } from './shared/wire'

const emit = defineEmits<{ shows: [] }>()
const show = useShow()
const meter = ref<HTMLElement>()
const hold = ref<HTMLElement>()
const level = ref<HTMLElement>()
const tempo = ref<HTMLElement>()
const lamps = ref<HTMLElement[]>([])
const beats = ref(4)
const sure = ref(false)
const clipped = ref(0)
const repaired = ref(0)
let held = -60
let heldAt = 0

const share = (db: number): number => Math.min(1, Math.max(0, (db + 60) / 60))

function paint(packet: Packet): void {
  const status = packet.blocks.get(Block.status)
  if (!status || !meter.value) return
  const peak = status[Status.peak]!
  const now = performance.now()
  if (peak > held || now - heldAt > 1500) {
    held = peak
    heldAt = now
  }
  meter.value.style.transform = `scaleX(${share(status[Status.rms]!)})`
  hold.value!.style.left = `${share(held) * 100}%`
  level.value!.textContent = status[Status.rms]! < -90 ? '–∞' : status[Status.rms]!.toFixed(1)
  const confident = status[Status.confidence]! > 0.3
  sure.value = confident
  // A tempo that is given stands there whatever is heard.
  tempo.value!.textContent =
    confident || (show.document?.tempo?.mode ?? 'auto') !== 'auto' ? status[Status.bpm]!.toFixed(1) : '–––'
  clipped.value = status[Status.clips]!
  repaired.value = status[Status.repaired]!
  const inBar = status[Status.beatsABar] || 4
  const at = Math.floor(status[Status.barPhase]! * inBar)
  const fade = 1 - ((status[Status.barPhase]! * inBar) % 1)
  if (beats.value !== inBar) beats.value = inBar
  lamps.value.forEach((lamp, i) => {
    lamp.style.opacity = confident && i === at ? '1' : '0.28'
    lamp.style.boxShadow = confident && i === at ? `0 0 ${Math.round(14 * fade)}px var(--bolt)` : 'none'
    lamp.style.background = confident && i === at ? 'var(--bolt)' : 'transparent'
  })
}
useFrames([Block.status], { paint })

const input = computed(() => {
  const main = show.mainInput
  if (main?.use === 'track')
    return show.tracks.find((track) => track.id === main.track?.track)?.title ?? 'No track'
  return main?.use === 'house'
    ? 'House band'
    : main?.use === 'device'
      ? main.device?.device || 'Device'
      : 'Live'
})
// Only a one that is sure is round.
const oneSure = computed(() => state.value.beat?.one_sure ?? false)
const oneSays = computed(() =>
  oneSure.value
    ? 'The beats of the bar; the round one is the first'
    : 'The beats of the bar; which is the first is unsure. Mark it under Beat in Hear',
)
const fits = computed(() => state.value.beat?.fits ?? true)
const tempoSays = computed(() =>
  !sure.value
    ? 'No steady beat is heard yet'
    : fits.value
      ? 'Tempo'
      : 'What plays has no clear beat, or fits another as well. See Beat in Hear',
)
const trouble = computed(() => state.value.inputs?.[MAIN]?.trouble ?? '')

interface Lever {
  bar: HTMLElement | undefined
  gesture: string
}
const lever: Lever = { bar: undefined, gesture: '' }
function pull(
  event: PointerEvent,
  low: number,
  high: number,
  path: string,
  name: string,
  step: number,
): void {
  const bar = event.currentTarget as HTMLElement
  if (event.type === 'pointerdown') {
    bar.setPointerCapture(event.pointerId)
    lever.gesture = newGesture()
  }
  if (!bar.hasPointerCapture(event.pointerId)) return
  const box = bar.getBoundingClientRect()
  const value = low + Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * (high - low)
  show.set(path, Number((Math.round(value / step) * step).toFixed(4)), name, lever.gesture)
}
function nudge(
  event: KeyboardEvent,
  value: number,
  low: number,
  high: number,
  path: string,
  name: string,
  step: number,
): void {
  const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
  if (way) {
    event.preventDefault()
    show.set(path, Number(Math.min(high, Math.max(low, value + way * step)).toFixed(4)), name)
  }
}
const gain = computed(() => show.mainInput?.gain_db ?? 0)
const amount = computed(() => show.document?.sound_amount ?? 1)
</script>

<template>
  <header class="strip">
    <button class="button plain name" :title="'Shows'" @click="emit('shows')">
      <svg width="18" height="24" viewBox="0 0 18 24" aria-hidden="true">
        <path d="M11 0 1 14h6l-2 10L17 9h-7z" fill="var(--bolt)" />
      </svg>
      <strong>{{ show.document?.name }}</strong>
    </button>
    <span
      v-tooltip.bottom="trouble || 'What the show listens to'"
      class="input"
      :class="{ bad: trouble }"
      data-testid="input-name"
      >{{ trouble ? 'No sound' : input }}</span
    >
    <div
      v-tooltip.bottom="'RMS level of the input, its peak held'"
      class="level"
      role="meter"
      aria-label="Input level"
    >
      <div class="groove">
        <div ref="meter" class="fill" />
        <div ref="hold" class="hold" />
      </div>
    </div>
    <span class="num db"><span ref="level" data-testid="level">–∞</span> <span class="soft">dB</span></span>
    <span
      v-if="clipped"
      v-tooltip.bottom="'Blocks in which the input clipped. Lower the gain.'"
      class="num clip"
      >clip {{ clipped }}</span
    >
    <span
      v-if="repaired"
      v-tooltip.bottom="'Damaged samples that were repaired: the device or its driver sends them.'"
      class="num clip"
      >repaired {{ repaired }}</span
    >
    <div
      class="lever"
      role="slider"
      tabindex="0"
      aria-label="Gain"
      :aria-valuenow="gain"
      aria-valuemin="-40"
      aria-valuemax="40"
      @pointerdown="pull($event, -40, 40, '/inputs/main/gain_db', 'Gain', 0.5)"
      @pointermove="pull($event, -40, 40, '/inputs/main/gain_db', 'Gain', 0.5)"
      @keydown="nudge($event, gain, -40, 40, '/inputs/main/gain_db', 'Gain', 0.5)"
      @dblclick="show.set('/inputs/main/gain_db', 0, 'Gain')"
    >
      <i :style="{ left: `${((gain + 40) / 80) * 100}%` }" /><span
        >Gain <b class="num">{{ gain > 0 ? '+' : '' }}{{ gain.toFixed(1) }}</b> dB</span
      >
    </div>
    <div v-tooltip.bottom="oneSays" class="beats" role="img" :aria-label="oneSays">
      <span v-for="n in beats" :key="n" ref="lamps" class="beat" :class="{ one: n === 1 && oneSure }" />
    </div>
    <span v-tooltip.bottom="tempoSays" class="tempo"
      ><span ref="tempo" class="num big" data-testid="tempo">–––</span>
      <span class="soft">{{ sure && fits ? 'BPM' : 'unsure' }}</span></span
    >
    <div
      v-tooltip.bottom="'How much all routes act'"
      class="lever"
      role="slider"
      tabindex="0"
      aria-label="Sound amount"
      :aria-valuenow="amount"
      aria-valuemin="0"
      aria-valuemax="1"
      @pointerdown="pull($event, 0, 1, '/sound_amount', 'Sound amount', 0.01)"
      @pointermove="pull($event, 0, 1, '/sound_amount', 'Sound amount', 0.01)"
      @keydown="nudge($event, amount, 0, 1, '/sound_amount', 'Sound amount', 0.05)"
    >
      <i :style="{ left: `${amount * 100}%` }" /><span
        >Sound <b class="num">{{ Math.round(amount * 100) }}</b> %</span
      >
    </div>
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
    <a class="button" href="/output" target="fulgura-output">Output <i class="pi pi-external-link" /></a>
    <button
      class="button danger"
      :class="{ on: show.document?.blackout }"
      @click="show.set('/blackout', !show.document?.blackout, 'Blackout')"
    >
      Blackout
    </button>
  </header>
</template>

<style scoped>
.strip {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 50px;
  padding: 0 10px 0 6px;
  white-space: nowrap;
  overflow: hidden;
}
.name {
  padding: 0 6px;
  max-width: 190px;
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
.input.bad,
.clip {
  color: var(--alarm);
}
.level {
  width: 92px;
}
.groove {
  position: relative;
  height: 12px;
  border-radius: 3px;
  background: var(--raised);
  overflow: hidden;
}
.fill {
  position: absolute;
  inset: 0;
  transform-origin: left;
  background: linear-gradient(90deg, var(--moss) 70%, var(--bolt) 88%, var(--alarm));
  transform: scaleX(0);
}
.hold {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--text);
}
.db {
  width: 68px;
  text-align: right;
}
.lever {
  position: relative;
  width: 118px;
  height: 36px;
  border: 1px solid var(--edge);
  border-radius: 7px;
  background: var(--raised);
  display: grid;
  place-items: center;
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
  overflow: hidden;
  font-size: 14px;
}
.lever i {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 4px;
  margin-left: -2px;
  background: var(--hand);
}
.lever span {
  position: relative;
}
.beats {
  display: flex;
  gap: 5px;
}
.beat {
  width: 14px;
  height: 14px;
  border-radius: 4px;
  border: 2px solid var(--bolt);
  opacity: 0.28;
}
.beat.one {
  border-radius: 50%;
}
.tempo {
  min-width: 116px;
}
.big {
  font-size: 21px;
  font-weight: 700;
}
.square {
  padding: 0;
  width: 34px;
  justify-content: center;
}
</style>
