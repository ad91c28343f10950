<script setup lang="ts">
// Which camera of this browser; the test card until one is chosen.
import { computed, onMounted } from 'vue'
import { ANY, askAgain, cameras, found, listCameras } from '../picture/camera'

const props = defineProps<{ value: string; label: string }>()
const emit = defineEmits<{ change: [name: string] }>()
const missing = computed(
  () => props.value && props.value !== ANY && !found.value.some((one) => one.id === props.value),
)
const now = computed(() => (props.value ? cameras.get(props.value) : undefined))
onMounted(() => void listCameras())
</script>

<template>
  <select
    :value="value"
    :aria-label="label"
    class="button choice"
    @focus="listCameras()"
    @change="emit('change', ($event.target as HTMLSelectElement).value)"
  >
    <option value="">none: the test card</option>
    <option :value="ANY">this browser's camera</option>
    <option v-for="one in found" :key="one.id" :value="one.id">{{ one.label }}</option>
    <option v-if="missing" :value="value">{{ value }}</option>
  </select>
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
.choice {
  width: 100%;
}
.wrong {
  color: var(--alarm);
}
</style>
