<script setup lang="ts">
// Something of the show that is referred to: a look, a cue, a parameter.
import { computed } from 'vue'
import { useShow } from '../../live/show'
import Choice from '../Choice.vue'
import { referenceOptions } from '../references'
import type { ControlEmits, ControlProps } from './parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const show = useShow()
const options = computed(() => {
  const found = referenceOptions(show, props.parameter.of ?? '')
  const value = String(props.value)
  const none = { value: '', label: props.parameter.empty || 'none' }
  const gone = value && !found.some((option) => option.value === value)
  return [none, ...(gone ? [{ value, label: 'what is gone' }] : []), ...found]
})
</script>

<template>
  <Choice
    :value="String(value)"
    :options="options"
    :label="parameter.title"
    :find="options.length > 8"
    @choose="(to) => emit('change', to, '')"
  />
</template>
