<script setup lang="ts">
// A row of steps: pull their heights, sweep over several, lengthen or shorten the row.
import { ref } from 'vue'
import { newGesture } from '../live/gestures'

const props = defineProps<{ steps: number[]; label: string }>()
const emit = defineEmits<{ change: [steps: number[], gesture: string] }>()
const box = ref<HTMLElement>()
let gesture = ''
function sweep(event: PointerEvent): void {
  if (event.type === 'pointerdown') {
    box.value!.setPointerCapture(event.pointerId)
    gesture = newGesture()
  }
  if (!box.value!.hasPointerCapture(event.pointerId)) return
  const r = box.value!.getBoundingClientRect()
  const i = Math.min(
    props.steps.length - 1,
    Math.max(0, Math.floor(((event.clientX - r.left) / r.width) * props.steps.length)),
  )
  const height = Math.min(1, Math.max(0, 1 - (event.clientY - r.top) / r.height))
  set(i, height < 0.04 ? 0 : height, gesture)
}
function set(i: number, height: number, name: string): void {
  emit(
    'change',
    props.steps.map((step, k) => (k === i ? Math.round(Math.min(1, Math.max(0, height)) * 100) / 100 : step)),
    name,
  )
}
function key(event: KeyboardEvent, i: number): void {
  const by = { ArrowUp: 0.05, ArrowDown: -0.05 }[event.key]
  if (by) {
    event.preventDefault()
    set(i, props.steps[i]! + by, event.repeat ? gesture : (gesture = newGesture()))
  }
  const next = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (next) (box.value!.children[i + next] as HTMLElement | undefined)?.focus()
}
const length = (count: number): void =>
  emit(
    'change',
    Array.from({ length: count }, (_, i) => props.steps[i % props.steps.length]!),
    '',
  )
</script>

<template>
  <div ref="box" class="steps" role="group" :aria-label="label" @pointerdown="sweep" @pointermove="sweep">
    <div
      v-for="(step, i) in steps"
      :key="i"
      class="step"
      role="slider"
      tabindex="0"
      :aria-label="`Step ${i + 1}`"
      :aria-valuenow="step"
      aria-valuemin="0"
      aria-valuemax="1"
      :class="{ one: i % 4 === 0 }"
      @keydown="key($event, i)"
    >
      <i :style="{ height: `${step * 100}%` }" />
    </div>
  </div>
  <div class="row">
    <button
      class="button"
      :disabled="steps.length <= 4"
      aria-label="Fewer steps"
      @click="length(steps.length - 1)"
    >
      −
    </button>
    <span class="num">{{ steps.length }}</span>
    <button
      class="button"
      :disabled="steps.length >= 64"
      aria-label="More steps"
      @click="length(steps.length + 1)"
    >
      +
    </button>
    <button class="button" :disabled="steps.length > 32" @click="length(steps.length * 2)">Double</button>
    <button
      class="button"
      @click="
        emit(
          'change',
          steps.map(() => 0),
          '',
        )
      "
    >
      Clear
    </button>
  </div>
</template>

<style scoped>
.steps {
  display: flex;
  gap: 2px;
  height: 80px;
  touch-action: none;
  cursor: ns-resize;
  margin-bottom: 6px;
}
.step {
  flex: 1;
  min-width: 2px;
  background: var(--ground);
  border-bottom: 2px solid var(--edge);
  display: flex;
  align-items: flex-end;
}
.step.one {
  border-bottom-color: var(--bolt);
}
.step i {
  width: 100%;
  background: var(--bolt);
  opacity: 0.8;
  border-radius: 2px 2px 0 0;
}
</style>
