<script setup lang="ts">
// A live trace of one number over the last four seconds, with an optional bracket to drag.
import { useElementSize } from '@vueuse/core'
import { ref } from 'vue'
import { useFrames } from '../live/useFrames'
import { Roll } from '../live/roll'
import { newGesture } from '../live/gestures'
import { tokens } from '../tokens'
import type { BlockId, Packet } from '../live/wire'

const props = defineProps<{
  block: BlockId
  index: number
  low: number
  high: number
  colour: string
  bracket?: [number, number] | null
  label: string
}>()
const emit = defineEmits<{ bracket: [which: 0 | 1, value: number, gesture: string] }>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(canvas)
const SECONDS = 4
const RATE = 60
// What is kept, so that a trace of another size or range can be inked from anew.
const ring = new Float32Array(SECONDS * RATE)
let written = 0
let roll: Roll | null = null
let inkedAs = ''
let inked = 0
/**
 * Between which heights the curve ran since the last pixel: what moves faster than a pixel must not be lost.
 */
let top = 0
let bottom = 0

const share = (value: number): number =>
  Math.min(1, Math.max(0, (value - props.low) / (props.high - props.low || 1)))

function every(packet: Packet): void {
  const values = packet.blocks.get(props.block)
  if (values) ring[written++ % ring.length] = values[props.index] ?? 0
}
function inkRoll(wide: number, high: number, ratio: number): Roll {
  const as = [wide, high, props.low, props.high, props.colour].join(' ')
  if (!roll || as !== inkedAs) {
    roll = new Roll(wide, high, wide / SECONDS, tokens.ground)
    inkedAs = as
    inked = 0
  }
  const y = (value: number): number => high - (3 + share(value) * (high / ratio - 6)) * ratio
  const oldest = Math.max(0, written - ring.length)
  if (inked < oldest || !inked) {
    inked = oldest
    top = bottom = y(ring[oldest % ring.length]!)
  }
  for (; inked < written; inked++) {
    const at = y(ring[inked % ring.length]!)
    top = Math.min(top, at)
    bottom = Math.max(bottom, at)
    roll.add((inked + 1) / RATE, (x, columns) => {
      const ink = roll!.ink
      ink.fillStyle = tokens.ground
      ink.fillRect(x, 0, columns, high)
      ink.fillStyle = props.colour
      ink.fillRect(x, top - 0.85 * ratio, columns, bottom - top + 1.7 * ratio)
      top = bottom = at
    })
  }
  return roll
}
function paint(): void {
  const c = canvas.value
  if (!c || !width.value) return
  const ratio = Math.min(2, devicePixelRatio)
  const [wide, high] = [Math.round(width.value * ratio), Math.round(height.value * ratio)]
  if (!wide || !high) return
  if (c.width !== wide || c.height !== high) {
    c.width = wide
    c.height = high
  }
  const g = c.getContext('2d', { alpha: false })!
  inkRoll(wide, high, ratio).copy(g, wide)
  if (!written) {
    g.fillStyle = tokens.ground
    g.fillRect(0, 0, wide, high)
  }
  if (props.bracket) {
    const y = (value: number): number => high - (3 + share(value) * (height.value - 6)) * ratio
    const [a, b] = [y(props.bracket[0]), y(props.bracket[1])]
    g.fillStyle = 'rgba(201, 173, 255, .13)'
    g.fillRect(0, Math.min(a, b), wide, Math.abs(a - b))
    g.fillStyle = tokens.hand
    for (const at of [a, b]) g.fillRect(0, at - 0.75 * ratio, wide, 1.5 * ratio)
  }
}
useFrames([props.block], { every, paint })

let held: 0 | 1 | null = null
let gesture = ''
function drag(event: PointerEvent): void {
  if (!props.bracket) return
  const box = canvas.value!.getBoundingClientRect()
  const value =
    props.low +
    Math.min(1, Math.max(0, 1 - (event.clientY - box.top - 3) / (box.height - 6))) * (props.high - props.low)
  if (event.type === 'pointerdown') {
    canvas.value!.setPointerCapture(event.pointerId)
    held = Math.abs(value - props.bracket[0]) < Math.abs(value - props.bracket[1]) ? 0 : 1
    gesture = newGesture()
  }
  if (held !== null && canvas.value!.hasPointerCapture(event.pointerId)) emit('bracket', held, value, gesture)
}
</script>

<template>
  <canvas
    ref="canvas"
    :aria-label="label"
    :class="{ handle: bracket }"
    @pointerdown="drag"
    @pointermove="drag"
    @pointerup="held = null"
  />
</template>

<style scoped>
canvas {
  width: 100%;
  height: 100%;
  border-radius: 5px;
  touch-action: none;
}
.handle {
  cursor: ns-resize;
}
</style>
