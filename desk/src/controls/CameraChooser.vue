<script setup lang="ts">
// Which camera of this browser; the test card until one is chosen.
import { computed, onMounted } from 'vue'
import Choice from './Choice.vue'
import { ANY, askAgain, cameras, found, listCameras } from '../picture/camera'

const props = defineProps<{ value: string; label: string }>()
const emit = defineEmits<{ change: [name: string] }>()
const missing = computed(
  () => props.value && props.value !== ANY && !found.value.some((camera) => camera.id === props.value),
)
const options = computed(() => [
  { value: '', label: 'none: the test card' },
  { value: ANY, label: 'this browser’s camera' },
  ...found.value.map((camera) => ({ value: camera.id, label: camera.label })),
  ...(missing.value ? [{ value: props.value, label: props.value }] : []),
])
const now = computed(() => (props.value ? cameras.get(props.value) : undefined))
onMounted(() => void listCameras())
</script>

<template>
  <Choice
    :value="value"
    :options="options"
    :label="label"
    @focusin="listCameras()"
    @choose="(name) => emit('change', name)"
  />
  <small v-if="now === 'refused'" class="wrong" role="alert"
    >The browser was not allowed to use it; the test card is shown.
    <button class="button" @click="askAgain(value)">Ask again</button></small
  >
  <small v-else-if="now === 'missing'" class="wrong" role="alert"
    >That camera is not there; the test card is shown until it is.</small
  >
  <small v-else-if="now === 'asking'" class="soft">Waiting for the browser's leave …</small>
</template>

<style scoped>
.wrong {
  color: var(--alarm);
}
</style>
