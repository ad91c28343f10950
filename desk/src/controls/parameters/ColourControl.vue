<script setup lang="ts">
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
</script>

<template>
  <label class="swatch" :style="{ background: String(value) }">
    <input
      type="color"
      :value="String(value)"
      :aria-label="parameter.title"
      @input="emit('change', ($event.target as HTMLInputElement).value, `colour-${parameter.name}`)"
    />
  </label>
</template>

<style scoped>
.swatch {
  display: block;
  height: 26px;
  margin: 3px 0;
  border-radius: 5px;
  border: 1px solid var(--edge-strong);
  cursor: pointer;
}
.swatch input {
  opacity: 0;
  width: 100%;
  height: 100%;
  cursor: pointer;
}
</style>
