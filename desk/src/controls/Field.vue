<script setup lang="ts">
// A typed value with its label. A part of its own, so that news arriving meanwhile never overwrite what is
// being typed.
defineProps<{ label: string; value: string | number; low?: number; high?: number; wide?: boolean }>()
const emit = defineEmits<{ change: [value: string] }>()
</script>

<template>
  <label class="soft"
    >{{ label }}
    <input
      class="num"
      :class="{ wide }"
      :type="low === undefined ? 'text' : 'number'"
      :min="low"
      :max="high"
      :value="value"
      @change="emit('change', ($event.target as HTMLInputElement).value)"
  /></label>
</template>

<style scoped>
input {
  width: 84px;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  padding: 0 8px;
}
.wide {
  width: 150px;
}
</style>
