<script setup lang="ts">
import LineEditor from '../../editors/LineEditor.vue'
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
</script>

<template>
  <LineEditor
    :small="small"
    :points="value as [number, number][]"
    :label="parameter.title"
    @change="(points, gesture) => emit('change', points, gesture)"
  />
</template>
