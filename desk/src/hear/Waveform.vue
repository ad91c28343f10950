<script setup lang="ts">
// The whole track: where it is, and the stretch that loops. A click goes there; a drag marks the stretch.
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { api, type Input } from '../api/api'
import { clock } from '../controls/format'
import { newGesture } from '../live/gestures'
import { tokens } from '../tokens'

const props = defineProps<{ track: NonNullable<Input['track']>; position: number }>()
const emit = defineEmits<{ seek: [seconds: number]; stretch: [from: number, to: number, gesture: string] }>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(canvas)
const peaks = ref<number[]>([])
const length = ref(0)
const from = computed(() => props.track.loop_from_s ?? 0)
const to = computed(() => props.track.loop_to_s || length.value)
const whole = computed(() => from.value <= 0 && to.value >= length.value)

onMounted(async () => {
  try {
    const found = await api.waveform(props.track.track!)
    peaks.value = found.peaks
    length.value = found.seconds
  } catch {
    /* The input says what is wrong with the track. */
  }
})

function paint(): void {
  const c = canvas.value
  if (!c || !width.value || !length.value) return
  const ratio = Math.min(2, devicePixelRatio)
  c.width = Math.round(width.value * ratio)
  c.height = Math.round(height.value * ratio)
  const g = c.getContext('2d', { alpha: false })!
  g.scale(ratio, ratio)
  g.fillStyle = tokens.ground
  g.fillRect(0, 0, width.value, height.value)
  const x = (seconds: number): number => (seconds / length.value) * width.value
  for (let i = 0; i < width.value; i++) {
    const a = Math.floor((i / width.value) * peaks.value.length)
    const b = Math.max(a + 1, Math.floor(((i + 1) / width.value) * peaks.value.length))
    const tall = Math.max(...peaks.value.slice(a, b)) * (height.value - 6)
    const at = (i / width.value) * length.value
    const played = at <= props.position ? tokens.bolt : tokens.soft
    g.fillStyle = at >= from.value && at <= to.value ? played : tokens.edge
    g.fillRect(i, (height.value - tall) / 2, 1, Math.max(1, tall))
  }
  g.fillStyle = tokens.hand
  if (!whole.value) for (const end of [from.value, to.value]) g.fillRect(x(end) - 1, 0, 2, height.value)
  g.fillStyle = tokens.text
  g.fillRect(x(props.position) - 0.75, 0, 1.5, height.value)
}
watch([() => props.position, peaks, width, height, from, to], paint)

let start = -1
let gesture = ''
let moved = false
function drag(event: PointerEvent): void {
  const box = canvas.value!.getBoundingClientRect()
  const at = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * length.value
  if (event.type === 'pointerdown') {
    canvas.value!.setPointerCapture(event.pointerId)
    start = at
    gesture = newGesture()
    moved = false
    return
  }
  if (start < 0) return
  if (event.type === 'pointerup') {
    if (!moved) emit('seek', at)
    start = -1
    return
  }
  if (moved || Math.abs(at - start) > (6 / box.width) * length.value) {
    moved = true
    emit(
      'stretch',
      Math.round(Math.min(at, start) * 100) / 100,
      Math.round(Math.max(at, start) * 100) / 100,
      gesture,
    )
  }
}
function key(event: KeyboardEvent): void {
  const way = { ArrowRight: 5, ArrowLeft: -5 }[event.key]
  if (way) {
    event.preventDefault()
    emit('seek', Math.max(0, props.position + way))
  }
}
</script>

<template>
  <canvas
    ref="canvas"
    role="slider"
    tabindex="0"
    aria-label="Place in the track"
    :aria-valuemin="0"
    :aria-valuemax="length"
    :aria-valuenow="position"
    :aria-valuetext="clock(position)"
    @pointerdown="drag"
    @pointermove="drag"
    @pointerup="drag"
    @keydown="key"
  />
  <div class="row under">
    <span class="num"
      >{{ clock(position) }} <span class="soft">of {{ clock(length) }}</span></span
    ><span class="grow" />
    <button v-if="!whole" class="button plain" @click="emit('stretch', 0, 0, '')">Whole track</button>
    <span v-else v-tooltip.left="'Drag over the picture to loop a part of the track'" class="soft"
      >drag: loop a part</span
    >
  </div>
</template>

<style scoped>
canvas {
  width: 100%;
  height: 58px;
  border-radius: 5px;
  cursor: text;
  touch-action: none;
}
.under {
  font-size: 13px;
  min-height: 34px;
  gap: 4px;
  white-space: nowrap;
}
</style>
