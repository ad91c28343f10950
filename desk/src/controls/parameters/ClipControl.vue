<script setup lang="ts">
import ClipChooser from '../ClipChooser.vue'
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
</script>

<template>
  <ClipChooser :value="String(value)" :label="parameter.title" @change="(id) => emit('change', id, '')" />
</template>
