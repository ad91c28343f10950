<script setup lang="ts">
// Sound that this browser captures: from a device, or from a page that is shared.
import { computed, onMounted } from 'vue'
import type { Show } from '../api/api'
import Choice from '../controls/Choice.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import { captureOf, devices, listDevices, SHARED } from './microphone'

const props = defineProps<{ input: NonNullable<Show['inputs']>[number] }>()
const show = useShow()
const path = computed(() => `/inputs/${props.input.id}/live`)
const capture = computed(() => captureOf(props.input.id))
const dropped = computed(() => state.value.inputs?.[props.input.id]?.dropped ?? 0)
onMounted(() => void listDevices())

const SAYS: Record<string, string> = {
  off: 'Nothing is sent yet.',
  asking: 'The browser asks whether it may listen…',
  sending: 'Sending to the engine.',
  refused: 'The browser refused. Allow it in the address bar, then start again. Everything else goes on.',
  missing: 'No such device was found. Plug one in, or choose another. Everything else goes on.',
  taken: 'Another desk sends live sound now.',
  lost: 'The device is gone. It is taken back as soon as it is there again; all routes stay.',
  ended: 'The page is not shared any more.',
  soundless: 'That page was shared without its sound. Share it again and tick the sound.',
}
const calm = computed(() => ['sending', 'off', 'asking'].includes(capture.value.state))
const start = (): void => {
  const { device, left, right } = props.input.live ?? {}
  void capture.value.start(device ?? '', left ?? 1, right ?? 2)
}
const sources = computed(() => [
  { value: '', label: 'Default device' },
  ...devices.value
    .filter((device) => device.id && device.id !== 'default')
    .map((device) => ({ value: device.id, label: device.label })),
  { value: SHARED, label: 'A shared page or its sound' },
])
</script>

<template>
  <Choice
    :value="input.live?.device"
    :options="sources"
    label="Device"
    @choose="(id) => show.set(`${path}/device`, id, 'Device')"
  />
  <button v-if="capture.state !== 'sending'" class="button" @click="start">
    <i class="pi pi-microphone" />Start listening
  </button>
  <button v-else class="button on" @click="capture.stop()">
    <i class="pi pi-microphone" />Stop listening
  </button>
  <p :class="calm ? 'soft' : 'bad'" role="status" data-testid="microphone">
    {{ SAYS[capture.state]
    }}<template v-if="dropped"> {{ dropped }} samples came too fast and were dropped.</template>
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
.bad {
  color: var(--alarm);
}
</style>
