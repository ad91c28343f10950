<script setup lang="ts">
import StepEditor from '../../editors/StepEditor.vue'
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
</script>

<template>
  <StepEditor
    :steps="value as number[]"
    :label="parameter.title"
    @change="(steps, gesture) => emit('change', steps, gesture)"
  />
</template>
