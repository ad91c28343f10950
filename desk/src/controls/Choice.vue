<script setup lang="ts" generic="T extends string | number">
// One of several: the list that opens. Height, focus and keys are decided here for the whole desk.
import Select from 'primevue/select'
import { computed, nextTick, ref, useTemplateRef } from 'vue'

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
/** What is used of the list beyond its public face: which option is marked. */
type Marked = { focusedOptionIndex: number; findFirstOptionIndex: () => number }
const list = useTemplateRef<Marked>('list')
/** Of what fits the letters the first is marked, and Enter takes it. */
async function markFirst(): Promise<void> {
  await nextTick()
  if (list.value) list.value.focusedOptionIndex = list.value.findFirstOptionIndex()
}
/** After a click in the list the keys are the desk's again: a letter for the next cue changes no choice. */
let clicked = false
function closed(): void {
  open.value = false
  if (clicked && document.activeElement?.role === 'combobox') (document.activeElement as HTMLElement).blur()
  clicked = false
}
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
    ref="list"
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
    @hide="closed"
    @filter="markFirst"
    @change="(change) => (clicked = change.originalEvent.type === 'click')"
    @update:model-value="(to: T) => emit('choose', to)"
  />
</template>
