<script setup lang="ts">
// A number that is being typed: a sum, a unit, decibels or beats; Enter takes it, Escape leaves it, Tab goes on.
import { nextTick, onMounted, ref } from 'vue'
import { beatS } from '../live/beat'
import { typedNumber } from './typed'

const props = defineProps<{ from: string; unit: string; label: string; first?: string }>()
const emit = defineEmits<{ take: [value: number]; leave: []; next: [back: boolean] }>()
const input = ref<HTMLInputElement>()
const wrong = ref(false)
let done = false

onMounted(async () => {
  // Not with the next frame: what is typed before it would be lost.
  await nextTick()
  const box = input.value
  if (!box) return
  box.value = props.first || props.from
  box.focus()
  if (!props.first) box.select()
})
function take(): boolean {
  const text = input.value?.value ?? ''
  if (done) return true
  const value = typedNumber(text, { unit: props.unit, beatS: beatS.value })
  if (value === undefined && text.trim()) {
    wrong.value = true
    return false
  }
  done = true
  if (value !== undefined && text !== props.from) emit('take', value)
  emit('leave')
  return true
}
function leave(): void {
  done = true
  emit('leave')
}
function key(event: KeyboardEvent): void {
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    take()
  } else if (event.key === 'Escape') leave()
  else if (event.key === 'Tab' && take()) {
    event.preventDefault()
    emit('next', event.shiftKey)
  }
}
function blurred(): void {
  if (!take()) leave()
}
</script>

<template>
  <input
    ref="input"
    class="typed num"
    :class="{ wrong }"
    :aria-label="label"
    :aria-invalid="wrong"
    inputmode="text"
    @keydown="key"
    @input="wrong = false"
    @blur="blurred"
    @pointerdown.stop
    @dblclick.stop
  />
</template>

<style scoped>
.typed {
  width: 9ch;
  min-width: 0;
  background: var(--ground);
  border: 1px solid var(--hand);
  border-radius: 5px;
  color: var(--text);
  text-align: right;
  padding: 0 4px;
  outline: 0;
}
.wrong {
  border-color: var(--alarm);
}
</style>
