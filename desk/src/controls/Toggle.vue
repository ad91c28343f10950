<script setup lang="ts">
// On or off.
import ToggleSwitch from 'primevue/toggleswitch'

defineProps<{ value: boolean; label: string }>()
const emit = defineEmits<{ change: [on: boolean] }>()
</script>

<template>
  <ToggleSwitch :model-value="value" :aria-label="label" @update:model-value="(on) => emit('change', on)" />
</template>
