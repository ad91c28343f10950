<script setup lang="ts">
import { computed } from 'vue'
import { useShow } from '../../live/show'
import Choice from '../Choice.vue'
import type { ControlEmits, ControlProps } from './parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const show = useShow()
const options = computed(() => [
  { value: '', label: props.parameter.empty || 'nothing' },
  ...[...show.signals.values()].map((signal) => ({ value: signal.id, label: signal.title })),
])
</script>

<template>
  <Choice
    :value="String(value)"
    :options="options"
    :label="parameter.title"
    find
    @choose="(to) => emit('change', to, '')"
  />
</template>
