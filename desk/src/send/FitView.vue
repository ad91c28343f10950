<script setup lang="ts">
// The output's picture large, and on it what it is fitted by: corners, grids and masks to take hold of.
import { computed, ref, toRef } from 'vue'
import type { Output } from '../api/api'
import { newGesture } from '../live/gestures'
import OutputPicture from './OutputPicture.vue'
import type { Pair } from './projective'
import { useHandles, type Handle } from './useHandles'

const props = defineProps<{ output: Output }>()
const { handles, lines } = useHandles(toRef(props, 'output'))
const frame = ref<HTMLElement>()
const shape = computed(() => props.output.width! / props.output.height!)
const viewBox = computed(() => `0 0 ${props.output.width} ${props.output.height}`)
const drawn = computed(() =>
  lines.value.map(({ line, ...how }) => ({
    ...how,
    points: line.map(([x, y]) => `${x * props.output.width!},${y * props.output.height!}`).join(' '),
  })),
)

let held: { handle: Handle; gesture: string } | null = null
function down(event: PointerEvent, handle: Handle): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  held = { handle, gesture: newGesture() }
}
function move(event: PointerEvent): void {
  const box = frame.value?.getBoundingClientRect()
  if (!held || !box) return
  const to: Pair = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height]
  held.handle.move(to.map((value) => Math.min(1.5, Math.max(-0.5, value))) as Pair, held.gesture)
}
function up(): void {
  held = null
}
const STEPS: Record<string, Pair> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function key(event: KeyboardEvent, handle: Handle): void {
  const step = STEPS[event.key]
  if (!step) return
  event.preventDefault()
  const far = event.shiftKey ? 10 : 1
  const { width = 1280, height = 720 } = props.output
  handle.move([handle.at[0] + (step[0] * far) / width, handle.at[1] + (step[1] * far) / height], newGesture())
}
const style = ({ at }: Handle): { left: string; top: string } => ({
  left: `${at[0] * 100}%`,
  top: `${at[1] * 100}%`,
})
</script>

<template>
  <div class="room">
    <div class="space">
      <div ref="frame" class="frame" :style="{ '--shape': shape }">
        <OutputPicture :output="output" :largest="960" :one-in="2" />
        <svg :viewBox="viewBox" preserveAspectRatio="none" aria-hidden="true">
          <polyline
            v-for="(line, index) in drawn"
            :key="index"
            :points="line.points"
            :class="{ on: line.on, mask: line.mask }"
          />
        </svg>
        <button
          v-for="handle in handles"
          :key="handle.key"
          class="handle"
          :class="handle.kind"
          :style="style(handle)"
          :aria-label="handle.label"
          @pointerdown="down($event, handle)"
          @pointermove="move"
          @pointerup="up"
          @keydown="key($event, handle)"
        />
      </div>
    </div>
    <p class="soft hint">
      Drag a handle; arrow keys move the one with the focus by a pixel of the output, with Shift by ten.
    </p>
  </div>
</template>

<style scoped>
.room {
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 10px;
  /* Corners may lie outside of the output: there is room about it. */
  padding: 26px 40px;
}
.space {
  flex: 1;
  width: 100%;
  min-height: 0;
  container-type: size;
  display: grid;
  place-items: center;
}
.frame {
  position: relative;
  width: min(100cqw, 100cqh * var(--shape));
  outline: 1px dashed var(--edge-strong);
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
  pointer-events: none;
}
polyline {
  fill: none;
  stroke: var(--edge-strong);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
polyline.on {
  stroke: var(--bolt);
}
polyline.mask {
  stroke-dasharray: 6 4;
}
.handle {
  position: absolute;
  width: 34px;
  height: 34px;
  margin: -17px;
  border: 0;
  background: none;
  cursor: grab;
  touch-action: none;
  display: grid;
  place-items: center;
}
.handle::after {
  content: '';
  width: 13px;
  height: 13px;
  border: 2px solid var(--hand);
  background: var(--ground);
}
.handle.point::after {
  width: 9px;
  height: 9px;
  border-radius: 50%;
}
.handle.mask::after {
  transform: rotate(45deg);
}
.handle:focus-visible::after {
  background: var(--bolt);
}
.hint {
  margin: 0;
  font-size: 13px;
}
</style>
