<script setup lang="ts">
// Where an input's sound comes from, and what there is to set about it.
import SelectButton from 'primevue/selectbutton'
import { computed, ref, watch } from 'vue'
import { api, type SoundDevice } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import ParameterControl from '../controls/ParameterControl.vue'
import { clock } from '../controls/format'
import { state } from '../live/live'
import { MAIN, useShow } from '../live/show'
import DeviceInput from './DeviceInput.vue'
import FilmInput from './FilmInput.vue'
import LiveInput from './LiveInput.vue'
import TrackInput from './TrackInput.vue'
import { captureOf } from './microphone'

const show = useShow()
const USES = [
  { label: 'Track', value: 'track' },
  { label: 'Live', value: 'live' },
  { label: 'Device', value: 'device' },
  { label: 'House band', value: 'house' },
  { label: 'Film', value: 'film' },
]
const input = computed(() => show.input!)
const path = computed(() => `/inputs/${input.value.id}`)
const now = computed(() => state.value.inputs?.[input.value.id])
const recording = computed(() => now.value?.recording)
const capture = computed(() => captureOf(input.value.id))
const machine = ref<SoundDevice[]>([])
const houseParameters = computed(() => show.kind('input', 'house-band-settings')?.parameters ?? [])

async function doing(work: Promise<unknown>): Promise<void> {
  try {
    await work
  } catch (error) {
    show.complain(error)
  }
}
const lookForDevices = (): Promise<void> =>
  doing(
    api.devices().then((found) => {
      machine.value = found
    }),
  )
watch(
  () => input.value.use,
  (use, before) => {
    if (before === 'live' && use !== 'live') capture.value.stop()
  },
)

// Which channels: asked only where there are more than two.
const channels = computed(() => {
  switch (input.value.use) {
    case 'live':
      return capture.value.channels
    case 'device':
      return machine.value.find((device) => device.name === input.value.device?.device)?.channels ?? 2
    default:
      return 2
  }
})
const pair = computed(() => (input.value.use === 'device' ? input.value.device! : input.value.live!))
const most = computed(() => Math.max(channels.value, pair.value.left ?? 1, pair.value.right ?? 2))
const numbers = computed(() =>
  Array.from({ length: most.value }, (_, n) => ({ value: n + 1, label: String(n + 1) })),
)
const SIDES = [
  { side: 'left', title: 'Left' },
  { side: 'right', title: 'Right' },
] as const
function choose(side: 'left' | 'right', channel: number): void {
  show.set(`${path.value}/${input.value.use}/${side}`, channel, `${side} channel`)
  if (capture.value.state !== 'sending') return
  setTimeout(() => {
    const { device, left, right } = input.value.live ?? {}
    void capture.value.start(device ?? '', left ?? 1, right ?? 2)
  })
}
const add = (): Promise<void> =>
  doing(
    api.addInput().then(({ id }) => {
      show.chosenInput = id
    }),
  )
function rename(text: string): void {
  if (text) show.set(`${path.value}/name`, text, 'Input name')
}
async function remove(): Promise<void> {
  capture.value.stop()
  await doing(api.removeInput(input.value.id))
  show.chosenInput = MAIN
}
</script>

<template>
  <div class="card">
    <div v-if="input.id !== MAIN" class="row">
      <Field :key="input.id" :value="input.name" label="Name" wide @change="rename" /><button
        class="button square"
        :aria-label="`Close ${input.name}`"
        @click="remove"
      >
        <i class="pi pi-trash" />
      </button>
    </div>
    <SelectButton
      :model-value="input.use"
      :options="USES"
      option-label="label"
      option-value="value"
      :allow-empty="false"
      aria-label="Input"
      @update:model-value="(use) => show.set(`${path}/use`, use, 'Input')"
    />
    <TrackInput v-if="input.use === 'track'" :key="input.id" :input="input" />
    <LiveInput v-else-if="input.use === 'live'" :key="`${input.id} live`" :input="input" />
    <DeviceInput
      v-else-if="input.use === 'device'"
      :key="`${input.id} device`"
      :input="input"
      :machine="machine"
      @look="lookForDevices"
    />
    <FilmInput
      v-else-if="input.use === 'film'"
      :key="`${input.id} film`"
      :film="input.film ?? {}"
      :path="path"
    />
    <template v-else>
      <ParameterControl
        v-for="parameter in houseParameters"
        :key="parameter.name"
        :parameter="parameter"
        :value="(input.house as unknown as Record<string, number>)[parameter.name]!"
        @change="
          (value, gesture) =>
            show.set(
              `${path}/house/${parameter.name}`,
              value,
              `House band ${parameter.title.toLowerCase()}`,
              gesture,
            )
        "
      />
      <p v-if="now?.creep_db" class="soft">
        The level has crept by <span class="num">{{ now.creep_db.toFixed(1) }}</span> dB.
      </p>
    </template>
    <div v-if="most > 2" class="row">
      <span v-for="{ side, title } in SIDES" :key="side" class="row grow"
        >{{ title }}
        <Choice
          :value="pair[side]"
          :options="numbers"
          :label="`${side} channel`"
          @choose="(channel) => choose(side, channel)"
        />
      </span>
    </div>
    <p v-if="now?.fault && input.use !== 'live'" class="bad" role="alert">{{ now.fault.text }}</p>
    <p v-if="now?.warning" class="warn" role="status">{{ now.warning }}</p>
    <button
      class="button"
      :class="{ recording: recording && !recording.fault }"
      @click="doing(api.record(input.id, !recording))"
    >
      <i class="pi pi-circle-fill" />{{
        recording ? `Recording ${clock(recording.seconds)} · end it` : 'Record this input'
      }}
    </button>
    <p v-if="recording?.fault" class="bad" role="alert">{{ recording.fault.text }}</p>
    <button class="button" @click="add"><i class="pi pi-plus" />One more input</button>
  </div>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.recording {
  border-color: var(--alarm);
  color: var(--alarm);
}
.button {
  justify-content: center;
}
.square {
  width: 38px;
  padding: 0;
  justify-content: center;
}
p {
  margin: 0;
  font-size: 14px;
}
.bad {
  color: var(--alarm);
}
.warn {
  color: var(--bolt);
}
:deep(.p-togglebutton) {
  min-height: 34px;
  padding: 2px 4px;
  flex: 1 0 45%;
}
:deep(.p-selectbutton) {
  width: 100%;
  display: flex;
  flex-wrap: wrap;
}
</style>
