<script setup lang="ts">
// A name that is typed in place. It goes to what it belonged to when typing began, whatever is shown by then.
import { nextTick, ref } from 'vue'
import { useTyped } from './useTyped'

const props = defineProps<{ label: string; value: string; at?: unknown }>()
const emit = defineEmits<{ change: [name: string, at: unknown] }>()
const input = ref<HTMLInputElement>()
/** An empty name is none: what was there comes back. */
const { text, begin, end, leave } = useTyped(
  () => props.value,
  () => props.at,
  (typed, at) => {
    const name = typed.trim()
    if (name) emit('change', name, at)
  },
)
/** Begin to type, over what stands there. */
function focus(): void {
  void nextTick(() => {
    input.value?.focus()
    input.value?.select()
  })
}
defineExpose({ focus })
function escape(): void {
  leave()
  input.value?.blur()
}
</script>

<template>
  <input
    ref="input"
    v-model="text"
    :aria-label="label"
    maxlength="80"
    @focus="begin"
    @input="begin"
    @blur="end"
    @keydown.enter.prevent="input?.blur()"
    @keydown.escape.stop="escape"
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
