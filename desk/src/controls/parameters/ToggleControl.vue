<script setup lang="ts">
import Toggle from '../Toggle.vue'
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
</script>

<template>
  <Toggle :value="!!value" :label="parameter.title" @change="(on) => emit('change', on, '')" />
</template>
