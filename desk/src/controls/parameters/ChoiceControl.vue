<script setup lang="ts">
import { computed } from 'vue'
import Choice from '../Choice.vue'
import type { ControlEmits, ControlProps } from './parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const options = computed(() =>
  (props.parameter.choices ?? []).map((choice) => ({ value: choice, label: choice })),
)
</script>

<template>
  <Choice
    :value="String(value)"
    :options="options"
    :label="parameter.title"
    @choose="(to) => emit('change', to, '')"
  />
</template>
