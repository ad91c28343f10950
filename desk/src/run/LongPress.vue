<script setup lang="ts">
// A button for what can hurt: it does nothing until it was held for a moment.
import { onScopeDispose, ref } from 'vue'

defineProps<{ label: string }>()
const emit = defineEmits<{ done: [] }>()
const HOLD_MS = 600
const holding = ref(false)
let timer = 0
function begin(): void {
  if (holding.value) return
  holding.value = true
  timer = window.setTimeout(() => {
    holding.value = false
    emit('done')
  }, HOLD_MS)
}
function stop(): void {
  holding.value = false
  clearTimeout(timer)
}
onScopeDispose(stop)
</script>

<template>
  <button
    v-tooltip.top="`${label} (hold)`"
    class="button long"
    :class="{ holding }"
    :aria-label="`${label} (hold)`"
    @pointerdown="begin"
    @pointerup="stop"
    @pointerleave="stop"
    @pointercancel="stop"
    @keydown.enter.prevent="begin"
    @keyup="stop"
    @blur="stop"
  >
    <slot />
  </button>
</template>

<style scoped>
.long {
  position: relative;
  overflow: hidden;
  min-height: 40px;
  touch-action: none;
}
.long::after {
  content: '';
  position: absolute;
  inset: auto 100% 0 0;
  height: 4px;
  background: var(--bolt);
}
.long.holding::after {
  right: 0;
  transition: right 0.6s linear;
}
</style>
