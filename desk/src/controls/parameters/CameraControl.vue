<script setup lang="ts">
import CameraChooser from '../CameraChooser.vue'
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
</script>

<template>
  <CameraChooser :value="String(value)" :label="parameter.title" @change="(to) => emit('change', to, '')" />
</template>
