<script setup lang="ts">
// A device of the machine that runs the engine.
import { computed, onMounted } from 'vue'
import type { Show, SoundDevice } from '../api/api'
import Choice from '../controls/Choice.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'

const props = defineProps<{ input: NonNullable<Show['inputs']>[number]; machine: SoundDevice[] }>()
const emit = defineEmits<{ look: [] }>()
const show = useShow()
const arriving = computed(() => state.value.inputs?.[props.input.id]?.arriving)
const options = computed(() => {
  const chosen = props.input.device?.device ?? ''
  const missing = chosen && !props.machine.some((device) => device.name === chosen)
  return [
    { value: '', label: 'Default device' },
    ...props.machine.map((device) => ({ value: device.name, label: device.name })),
    ...(missing ? [{ value: chosen, label: `${chosen} (gone)` }] : []),
  ]
})
onMounted(() => emit('look'))
</script>

<template>
  <Choice
    :value="input.device?.device"
    :options="options"
    label="Device of this machine"
    @choose="(id) => show.set(`/inputs/${input.id}/device/device`, id, 'Device')"
  />
  <button class="button" @click="emit('look')"><i class="pi pi-refresh" />Look again</button>
  <p v-if="arriving" class="soft" role="status">Sound comes from it.</p>
  <p v-else-if="!machine.length" class="soft" role="status">
    The machine that runs the engine has no device to hear with.
  </p>
</template>

<style scoped>
.button {
  justify-content: center;
}
p {
  margin: 0;
  font-size: 14px;
}
</style>
