<script setup lang="ts">
// A number inside a sentence: drag it left and right, or type over it.
import { nextTick, ref } from 'vue'
import { digits } from './format'
import TypedNumber from './TypedNumber.vue'
import { inDecibels } from './typed'
import { newGesture } from '../live/gestures'

const props = defineProps<{
  value: number
  low: number
  high: number
  label: string
  unit?: string
  whole?: boolean
  /** A level: in decibels beside. */
  decibels?: boolean
}>()
const shown = (value: number): string =>
  props.whole ? String(Math.round(value)) : digits(value, props.low, props.high)
const emit = defineEmits<{ change: [value: number, gesture: string] }>()
const typing = ref(false)
const first = ref('')
const chip = ref<HTMLElement>()
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
  if (!moved && !typing.value) type()
}
function type(begun = ''): void {
  first.value = begun
  typing.value = true
}
/** Tab goes on to the next number of the sentence. */
async function goOn(back: boolean): Promise<void> {
  await nextTick()
  const all = [
    ...(chip.value?.closest('article, section, .mover')?.querySelectorAll<HTMLElement>('.chip') ?? []),
  ]
  const next = all[all.indexOf(chip.value!) + (back ? -1 : 1)]
  next?.focus()
  next?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }))
}
/** Kept as it was typed: a third is a third. */
function typed(value: number): void {
  const kept = Math.min(props.high, Math.max(props.low, props.whole ? Math.round(value) : value))
  if (kept !== props.value) emit('change', kept, '')
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
  if (typing.value) return
  if (event.key === 'Enter') {
    event.preventDefault()
    type()
  } else if (/^[-.,\d(]$/.test(event.key) && !event.ctrlKey && !event.metaKey) {
    event.preventDefault()
    event.stopPropagation()
    type(event.key)
  }
}
</script>

<template>
  <span
    ref="chip"
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
    <TypedNumber
      v-if="typing"
      :from="shown(value)"
      :unit="unit ?? ''"
      :label="`${label}, typed`"
      :first="first"
      @take="typed"
      @leave="typing = false"
      @next="goOn"
    />
    <template v-else>{{ shown(value) }}</template>
    <small v-if="unit">{{ unit }}</small>
    <small v-else-if="decibels && !typing">{{ inDecibels(value) }}</small>
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
small {
  color: var(--soft);
  font-size: 12px;
  margin-left: 4px;
}
</style>
