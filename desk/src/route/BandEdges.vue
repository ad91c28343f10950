<script setup lang="ts">
// A band on the living spectrum: pulled by its ends, moved by its middle.
import { computed, ref } from 'vue'
import type { Band } from '../api/api'
import { hertz } from '../controls/format'
import { KEY_STEP, useBandEdges, type Edge } from '../hear/bandEdges'
import { newGesture } from '../live/gestures'
import { layout } from '../live/live'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'

const props = defineProps<{ band: Band; colour: string }>()
const widen = useBandEdges()
const canvas = ref<HTMLCanvasElement>()
const box = ref<HTMLElement>()
const scale = computed(() => layout.value!.spectrum)
const input = computed(() => (layout.value?.inputs ?? []).findIndex((each) => each.id === props.band.input))
const span = computed(() => Math.log(scale.value.high_hz! / scale.value.low_hz!))
const share = (hz: number): number =>
  Math.min(1, Math.max(0, Math.log(hz / scale.value.low_hz!) / span.value))
const left = computed(() => share(props.band.low_hz!))
const right = computed(() => share(props.band.high_hz!))

function paint(packet: Packet): void {
  const all = packet.blocks.get(Block.spectrum) as Uint8Array | undefined
  const c = canvas.value
  if (!all || !c) return
  const bins = scale.value.bins!
  const mine = all.subarray(input.value * bins, (input.value + 1) * bins)
  if (c.width !== bins * 3) c.width = bins * 3
  if (c.height !== 64) c.height = 64
  const g = c.getContext('2d')!
  g.clearRect(0, 0, c.width, c.height)
  mine.forEach((level, bin) => {
    const high = Math.max(0, (level / 255 - 0.25) / 0.75) * c.height
    const at = (bin + 0.5) / bins
    g.fillStyle = at >= left.value && at <= right.value ? props.colour : '#4a4260'
    g.fillRect(bin * 3, c.height - high, 2, high)
  })
}
useFrames([Block.spectrum], { paint })

let grip: { band: Band; edge: Edge; x: number; gesture: string } | null = null
function hold(event: PointerEvent, edge: Edge): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  event.stopPropagation()
  grip = { band: { ...props.band }, edge, x: event.clientX, gesture: newGesture() }
}
function drag(event: PointerEvent): void {
  if (!grip || !box.value) return
  const factor = Math.exp(((event.clientX - grip.x) / box.value.clientWidth) * span.value)
  widen(grip.band, grip.edge, factor, grip.gesture)
}
function letGo(): void {
  grip = null
}
function key(event: KeyboardEvent, edge: Edge): void {
  const way = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (!way) return
  event.preventDefault()
  widen(props.band, edge, KEY_STEP ** way, '')
}
</script>

<template>
  <div>
    <div ref="box" class="spectrum" @pointermove="drag" @pointerup="letGo" @pointercancel="letGo">
      <canvas ref="canvas" aria-hidden="true" />
      <div
        class="middle"
        :style="{ left: `${left * 100}%`, width: `${(right - left) * 100}%`, borderColor: colour }"
        @pointerdown="hold($event, 'both')"
      />
      <button
        v-for="edge in ['low', 'high'] as const"
        :key="edge"
        class="edge"
        :style="{ left: `${(edge === 'low' ? left : right) * 100}%`, background: colour }"
        :aria-label="`${band.name} ${edge === 'low' ? 'begins' : 'ends'}; arrows move it`"
        @pointerdown="hold($event, edge)"
        @keydown="key($event, edge)"
      />
    </div>
    <small class="soft"
      ><b>{{ band.name }}</b
      >&nbsp; <span class="num">{{ hertz(band.low_hz!) }}–{{ hertz(band.high_hz!) }}</span></small
    >
  </div>
</template>

<style scoped>
.spectrum {
  position: relative;
  height: 76px;
  background: var(--ground);
  border-radius: 5px;
  touch-action: none;
  overflow: hidden;
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
.middle {
  position: absolute;
  inset-block: 0;
  border: 1px dashed;
  cursor: grab;
  background: rgb(255 255 255 / 5%);
}
.edge {
  position: absolute;
  inset-block: 0;
  width: 4px;
  margin-left: -2px;
  border: 0;
  padding: 0;
  cursor: ew-resize;
}
.edge::after {
  content: '';
  position: absolute;
  inset: 0 -14px;
}
</style>
