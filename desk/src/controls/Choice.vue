<script setup lang="ts" generic="T extends string | number">
// One of several: the list that opens. Height, focus and keys are decided here for the whole desk.
import Select from 'primevue/select'
import { computed, ref } from 'vue'

const props = defineProps<{
  value: T | null | undefined
  options: readonly { value: T; label: string }[]
  label: string
  placeholder?: string
  /** A box to search in, for long lists. */
  find?: boolean
  disabled?: boolean
}>()
const emit = defineEmits<{ choose: [value: T] }>()
// An empty value is a choice like any other, but the list shows it as none.
const none = computed(
  () => props.placeholder ?? props.options.find((option) => option.value === '')?.label ?? '',
)
const open = ref(false)
/** A closed list keeps Esc for itself; here it goes on to what holds the list, which may close by it. */
function escape(event: KeyboardEvent): void {
  if (event.key !== 'Escape' || open.value) return
  event.stopImmediatePropagation()
  const holder = (event.currentTarget as HTMLElement).parentElement
  holder?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape', bubbles: true }))
}
</script>

<template>
  <Select
    class="choice"
    :model-value="value"
    :options="[...options]"
    option-label="label"
    option-value="value"
    :placeholder="none"
    :filter="find"
    auto-filter-focus
    reset-filter-on-hide
    :disabled="disabled"
    :aria-label="label"
    size="small"
    @keydown.capture="escape"
    @show="open = true"
    @hide="open = false"
    @update:model-value="(to: T) => emit('choose', to)"
  />
</template>
