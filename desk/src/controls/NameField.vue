<script setup lang="ts">
// A name that is typed in place. A part of its own, so that news arriving meanwhile never overwrite what is
// being typed.
const props = defineProps<{ label: string; value: string }>()
const emit = defineEmits<{ change: [name: string] }>()
/** An empty name is none: what was there comes back. */
function take(box: HTMLInputElement): void {
  const name = box.value.trim()
  box.value = name || props.value
  if (name && name !== props.value) emit('change', name)
}
</script>

<template>
  <input
    :value="value"
    :aria-label="label"
    maxlength="80"
    @change="take($event.target as HTMLInputElement)"
  />
</template>

<style scoped>
input {
  background: none;
  border: 0;
  font-weight: 700;
  min-height: 32px;
  text-overflow: ellipsis;
}
</style>
