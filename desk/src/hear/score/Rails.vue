<script setup lang="ts">
// Bands on the score's right edge: moved by their middle, widened by their ends.
import { computed } from 'vue'
import type { Band } from '../../api/api'
import { hertz } from '../../controls/format'
import { newGesture } from '../../live/gestures'
import { KEY_STEP, useBandEdges, type Edge } from '../bandEdges'
import { RAILS, type Lane, type Plot } from './lanes'

const props = defineProps<{ rails: Lane[]; chosen: string; plot: Plot }>()
const emit = defineEmits<{ choose: [band: string] }>()
const widen = useBandEdges()
const { scale, scoreHeight, rowOf, hzAt } = props.plot
let grip: { band: Band; edge: Edge; y: number; gesture: string } | null = null
function hold(event: PointerEvent, band: Band, edge: Edge): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  event.stopPropagation()
  grip = { band: { ...band }, edge, y: event.clientY, gesture: newGesture() }
}
/** The whole band is taken hold of, and chosen. */
function take(event: PointerEvent, band: Band): void {
  hold(event, band, 'both')
  emit('choose', band.id)
}
function letGo(): void {
  grip = null
}
function drag(event: PointerEvent): void {
  if (!grip) return
  const factor = hzAt(event.clientY - grip.y + scoreHeight.value / 2) / hzAt(scoreHeight.value / 2)
  widen(grip.band, grip.edge, factor, grip.gesture)
}
function key(event: KeyboardEvent, band: Band): void {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!way) return
  event.preventDefault()
  widen(band, event.shiftKey ? 'high' : 'both', KEY_STEP ** way, '')
}

// Rails that overlap stand side by side; one that is alone takes the first place.
const placed = computed(() => {
  const columns: number[][] = []
  const at = new Map<string, number>()
  for (const rail of [...props.rails].sort((a, b) => a.band.low_hz - b.band.low_hz)) {
    const [low, high] = [rail.band.low_hz / 1.02, rail.band.high_hz * 1.02]
    let column = columns.findIndex((taken) => taken.every((end) => low >= end))
    if (column < 0) {
      column = columns.length
      columns.push([])
    }
    columns[column]!.push(high)
    at.set(rail.band.id, column)
  }
  return { at, width: Math.min(34, (RAILS - 8) / Math.max(1, columns.length)) }
})
function styleOf({ band, colour }: Lane): Record<string, string> {
  return {
    top: `${rowOf(Math.min(scale.value.high_hz, band.high_hz))}px`,
    bottom: `${scoreHeight.value - rowOf(Math.max(scale.value.low_hz, band.low_hz))}px`,
    left: `${6 + placed.value.at.get(band.id)! * placed.value.width}px`,
    width: `${placed.value.width - 2}px`,
    borderColor: colour,
    color: colour,
  }
}
</script>

<template>
  <div class="rails" :style="{ height: `${scoreHeight}px`, width: `${RAILS}px` }">
    <div
      v-for="rail in rails"
      :key="rail.band.id"
      class="rail"
      :class="{ chosen: rail.band.id === chosen, thin: placed.width < 22 }"
      role="slider"
      tabindex="0"
      :aria-label="`${rail.band.name} band`"
      :aria-valuetext="`${hertz(rail.band.low_hz)} to ${hertz(rail.band.high_hz)}`"
      :data-band="rail.band.id"
      :style="styleOf(rail)"
      @pointerdown="take($event, rail.band)"
      @pointermove="drag"
      @pointerup="letGo"
      @keydown="key($event, rail.band)"
    >
      <i
        class="end top"
        @pointerdown="hold($event, rail.band, 'high')"
        @pointermove="drag"
        @pointerup="letGo"
      />
      <span>{{ rail.band.name }}</span>
      <i class="end" @pointerdown="hold($event, rail.band, 'low')" @pointermove="drag" @pointerup="letGo" />
    </div>
  </div>
</template>

<style scoped>
.rails {
  position: absolute;
  right: 0;
  top: 0;
}
.rail {
  position: absolute;
  width: 32px;
  min-height: 26px;
  border: 1.5px solid;
  border-radius: 8px;
  background: color-mix(in srgb, currentColor 20%, var(--ground));
  cursor: grab;
  touch-action: none;
  display: grid;
  place-items: center;
}
.rail span {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  font-size: 13px;
  font-weight: 700;
  pointer-events: none;
  line-height: 1;
}
.end {
  position: absolute;
  left: 0;
  right: 0;
  height: 10px;
  bottom: -3px;
  cursor: ns-resize;
}
.end.top {
  top: -3px;
  bottom: auto;
}
.end::after {
  content: '';
  position: absolute;
  left: 8px;
  right: 8px;
  top: 4px;
  height: 2px;
  background: currentColor;
  border-radius: 1px;
}
.chosen {
  background: color-mix(in srgb, currentColor 38%, var(--ground));
}
.thin span {
  display: none;
}
</style>
