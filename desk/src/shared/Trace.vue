<script setup lang="ts">
// A live trace of one number over the last four seconds, with an optional bracket to drag.
import { useElementSize } from '@vueuse/core'
import { ref } from 'vue'
import { useFrames } from './live'
import { newGesture } from './show'
import { tokens } from './tokens'
import type { BlockId, Packet } from './wire'

const props = defineProps<{ block: BlockId; index: number; low: number; high: number; colour: string; bracket?: [number, number] | null; label: string }>()
const emit = defineEmits<{ bracket: [which: 0 | 1, value: number, gesture: string] }>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(canvas)
const SECONDS = 4
const ring = new Float32Array(SECONDS * 60)
let written = 0

const share = (value: number): number => Math.min(1, Math.max(0, (value - props.low) / (props.high - props.low || 1)))

function every(packet: Packet): void {
  const values = packet.blocks.get(props.block)
  if (values) ring[written++ % ring.length] = values[props.index] ?? 0
}
function paint(): void {
  const c = canvas.value
  if (!c || !width.value) return
  const ratio = Math.min(2, devicePixelRatio)
  if (c.width !== Math.round(width.value * ratio) || c.height !== Math.round(height.value * ratio)) { c.width = Math.round(width.value * ratio); c.height = Math.round(height.value * ratio) }
  const g = c.getContext('2d', { alpha: false })!
  g.setTransform(ratio, 0, 0, ratio, 0, 0)
  const w = width.value
  const h = height.value
  g.fillStyle = tokens.ground
  g.fillRect(0, 0, w, h)
  const y = (value: number): number => h - 3 - share(value) * (h - 6)
  if (props.bracket) {
    const [a, b] = [y(props.bracket[0]), y(props.bracket[1])]
    g.fillStyle = 'rgba(201, 173, 255, .13)'
    g.fillRect(0, Math.min(a, b), w, Math.abs(a - b))
    g.fillStyle = tokens.hand
    for (const at of [a, b]) g.fillRect(0, at - 0.75, w, 1.5)
  }
  g.beginPath()
  const count = Math.min(written, ring.length)
  for (let i = 0; i < count; i++) {
    const x = w - (i / ring.length) * w
    const at = y(ring[(written - 1 - i) % ring.length]!)
    if (i) g.lineTo(x, at); else g.moveTo(x, at)
  }
  g.strokeStyle = props.colour
  g.lineWidth = 1.7
  g.stroke()
}
useFrames([props.block], { every, paint })

let held: 0 | 1 | null = null
let gesture = ''
function drag(event: PointerEvent): void {
  if (!props.bracket) return
  const box = canvas.value!.getBoundingClientRect()
  const value = props.low + Math.min(1, Math.max(0, 1 - (event.clientY - box.top - 3) / (box.height - 6))) * (props.high - props.low)
  if (event.type === 'pointerdown') {
    canvas.value!.setPointerCapture(event.pointerId)
    held = Math.abs(value - props.bracket[0]) < Math.abs(value - props.bracket[1]) ? 0 : 1
    gesture = newGesture()
  }
  if (held !== null && canvas.value!.hasPointerCapture(event.pointerId)) emit('bracket', held, value, gesture)
}
</script>

<template><canvas ref="canvas" :aria-label="label" :class="{ handle: bracket }" @pointerdown="drag" @pointermove="drag" @pointerup="held = null" /></template>

<style scoped>
canvas { width: 100%; height: 100%; border-radius: 5px; touch-action: none }
.handle { cursor: ns-resize }
</style>
