<script setup lang="ts">
// A line through points, drawn by hand: drag a point, double-click to add or take one away, arrows move the
// chosen one.
import { computed, ref } from 'vue'
import { newGesture } from '../live/gestures'

const props = defineProps<{ points: [number, number][]; label: string; small?: boolean }>()
const emit = defineEmits<{ change: [points: [number, number][], gesture: string] }>()
const box = ref<HTMLElement>()
const chosen = ref(-1)
let gesture = ''
const W = 240
const H = 90
const line = computed(() =>
  [[0, props.points[0]?.[1] ?? 0], ...props.points, [1, props.points.at(-1)?.[1] ?? 0]]
    .map(([x, y]) => `${x! * W},${H - y! * H}`)
    .join(' '),
)
const round = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000

function at(event: MouseEvent): [number, number] {
  const r = box.value!.getBoundingClientRect()
  return [round((event.clientX - r.left) / r.width), round(1 - (event.clientY - r.top) / r.height)]
}
function near(event: MouseEvent): number {
  const r = box.value!.getBoundingClientRect()
  return props.points.findIndex(
    ([x, y]) =>
      Math.hypot(x * r.width - (event.clientX - r.left), (1 - y) * r.height - (event.clientY - r.top)) < 14,
  )
}
function movePoint(i: number, [x, y]: [number, number], name: string): void {
  const low = props.points[i - 1]?.[0] ?? 0
  const high = props.points[i + 1]?.[0] ?? 1
  emit(
    'change',
    props.points.map((point, k) => (k === i ? [Math.min(high, Math.max(low, x)), y] : point)) as [
      number,
      number,
    ][],
    name,
  )
}
function down(event: PointerEvent): void {
  chosen.value = near(event)
  if (chosen.value < 0) return
  gesture = newGesture()
  box.value!.setPointerCapture(event.pointerId)
}
function move(event: PointerEvent): void {
  if (chosen.value >= 0 && box.value!.hasPointerCapture(event.pointerId))
    movePoint(chosen.value, at(event), gesture)
}
function twice(event: MouseEvent): void {
  const i = near(event)
  if (i >= 0) {
    if (props.points.length > 2)
      emit(
        'change',
        props.points.filter((_, k) => k !== i),
        '',
      )
  } else if (props.points.length < 64)
    emit(
      'change',
      [...props.points, at(event)].sort((a, b) => a[0] - b[0]),
      '',
    )
}
function key(event: KeyboardEvent): void {
  const i = Math.max(0, chosen.value)
  const step = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, 0.02], ArrowDown: [0, -0.02] }[
    event.key
  ]
  const [x, y] = props.points[i]!
  if (step) {
    event.preventDefault()
    chosen.value = i
    movePoint(
      i,
      [round(x + step[0]!), round(y + step[1]!)],
      event.repeat ? gesture : (gesture = newGesture()),
    )
  }
  if (event.key === 'Tab' && !event.shiftKey && chosen.value < props.points.length - 1) {
    event.preventDefault()
    chosen.value = i + (chosen.value < 0 ? 0 : 1)
  }
  if (event.key === 'Delete' && props.points.length > 2)
    emit(
      'change',
      props.points.filter((_, k) => k !== i),
      '',
    )
}
</script>

<template>
  <div
    ref="box"
    v-tooltip.bottom="'Drag a point. Double-click adds or takes one away.'"
    class="box"
    tabindex="0"
    role="application"
    :aria-label="`${label}: line through ${points.length} points`"
    :class="{ small }"
    @pointerdown="down"
    @pointermove="move"
    @dblclick="twice"
    @keydown="key"
  >
    <svg :viewBox="`0 0 ${W} ${H}`" preserveAspectRatio="none">
      <polyline
        :points="line"
        fill="none"
        stroke="var(--hand)"
        stroke-width="2"
        vector-effect="non-scaling-stroke"
      />
    </svg>
    <i
      v-for="([x, y], i) in points"
      :key="i"
      class="point"
      :class="{ chosen: i === chosen }"
      :style="{ left: `${x * 100}%`, top: `${(1 - y) * 100}%` }"
    />
  </div>
</template>

<style scoped>
.box {
  position: relative;
  width: 100%;
  height: 90px;
  margin: 6px 0;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  touch-action: none;
  cursor: crosshair;
}
.box.small {
  height: 60px;
}
svg {
  width: 100%;
  height: 100%;
  display: block;
}
.point {
  position: absolute;
  width: 11px;
  height: 11px;
  margin: -6px 0 0 -6px;
  border-radius: 50%;
  background: var(--hand);
  pointer-events: none;
}
.point.chosen {
  background: var(--bolt);
  width: 14px;
  height: 14px;
  margin: -7px 0 0 -7px;
}
</style>
