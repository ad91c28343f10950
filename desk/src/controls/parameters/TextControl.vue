<script setup lang="ts">
// Words that Python reads: what is wrong with them is said below.
import { computed } from 'vue'
import { state } from '../../live/live'
import type { ControlEmits, ControlProps } from './parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const fault = computed(() => state.value.modulator_faults?.[props.target?.split('.')[0] ?? '']?.text ?? '')
</script>

<template>
  <input
    class="words num"
    :value="String(value)"
    :aria-label="parameter.title"
    :aria-invalid="!!fault"
    spellcheck="false"
    maxlength="400"
    @change="emit('change', ($event.target as HTMLInputElement).value, '')"
  />
  <small v-if="fault" class="wrong" role="status">{{ fault }}</small><small v-else class="soft">{{
    parameter.help
  }}</small>
</template>

<style scoped>
.words {
  width: 100%;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: var(--text);
  padding: 0 8px;
}
.words[aria-invalid='true'] {
  border-color: var(--alarm);
}
.wrong {
  color: var(--alarm);
}
</style>
