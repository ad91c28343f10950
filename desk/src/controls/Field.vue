<script setup lang="ts">
// A typed value with its label. News that arrive meanwhile never overwrite what is being typed.
import { ref } from 'vue'
import { useTyped } from './useTyped'

const props = defineProps<{
  label: string
  value: string | number
  low?: number
  high?: number
  wide?: boolean
}>()
const emit = defineEmits<{ change: [value: string] }>()
const input = ref<HTMLInputElement>()
const { text, begin, end, leave } = useTyped(
  () => String(props.value),
  () => undefined,
  (typed) => emit('change', typed),
)
function escape(): void {
  leave()
  input.value?.blur()
}
</script>

<template>
  <label class="soft"
    >{{ label }}
    <input
      ref="input"
      v-model="text"
      class="num"
      :class="{ wide }"
      :type="low === undefined ? 'text' : 'number'"
      :min="low"
      :max="high"
      @focus="begin"
      @input="begin"
      @blur="end"
      @keydown.enter.prevent="input?.blur()"
      @keydown.escape.stop="escape"
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
