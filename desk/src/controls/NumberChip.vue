<script setup lang="ts">
// A number inside a sentence: drag it left and right, or type over it.
import { nextTick, ref } from 'vue'
import { digits } from './format'
import { newGesture } from '../live/gestures'

const props = defineProps<{
  value: number
  low: number
  high: number
  label: string
  unit?: string
  whole?: boolean
}>()
const shown = (value: number): string =>
  props.whole ? String(Math.round(value)) : digits(value, props.low, props.high)
const emit = defineEmits<{ change: [value: number, gesture: string] }>()
const typing = ref(false)
const input = ref<HTMLInputElement>()
let from = { x: 0, value: 0 }
let gesture = ''
let moved = false

function down(event: PointerEvent): void {
  if (typing.value) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  from = { x: event.clientX, value: props.value }
  gesture = newGesture()
  moved = false
}
function move(event: PointerEvent): void {
  if (typing.value || !(event.currentTarget as HTMLElement).hasPointerCapture(event.pointerId)) return
  const off = event.clientX - from.x
  if (Math.abs(off) < 3 && !moved) return
  moved = true
  set(from.value + (off / 240) * (props.high - props.low), gesture)
}
function up(): void {
  if (!moved && !typing.value) void type()
}
async function type(): Promise<void> {
  typing.value = true
  // Not with the next frame: what is typed before it would be lost.
  await nextTick()
  input.value?.focus()
  input.value?.select()
}
function typed(): void {
  if (!typing.value) return // Left with Escape.
  const value = Number(input.value?.value.replace(',', '.'))
  typing.value = false
  if (Number.isFinite(value) && value !== props.value) set(value, '')
}
function set(value: number, name: string): void {
  emit('change', Number(shown(Math.min(props.high, Math.max(props.low, value)))), name)
}
function key(event: KeyboardEvent): void {
  const step =
    ((props.high - props.low) / 100) *
    ({ ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key] ?? 0)
  if (step && !typing.value) {
    event.preventDefault()
    set(props.value + step, newGesture())
  }
  if (event.key === 'Enter') {
    event.preventDefault()
    if (typing.value) typed()
    else void type()
  }
  if (event.key === 'Escape') typing.value = false
}
</script>

<template>
  <span
    class="chip num"
    role="spinbutton"
    tabindex="0"
    :aria-label="label"
    :aria-valuenow="value"
    :aria-valuemin="low"
    :aria-valuemax="high"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @keydown="key"
  >
    <input v-if="typing" ref="input" :value="shown(value)" inputmode="decimal" @blur="typed" />
    <template v-else>{{ shown(value) }}</template>
    <small v-if="unit">{{ unit }}</small>
  </span>
</template>

<style scoped>
.chip {
  display: inline-flex;
  align-items: center;
  min-height: 32px;
  padding: 0 8px;
  border-radius: 6px;
  background: var(--ground);
  border: 1px solid var(--edge);
  color: var(--hand);
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
  white-space: pre;
}
.chip:hover {
  border-color: var(--hand);
}
input {
  width: 6ch;
  background: none;
  border: 0;
  outline: 0;
  color: var(--text);
}
small {
  color: var(--soft);
  font-size: 12px;
  margin-left: 4px;
}
</style>
