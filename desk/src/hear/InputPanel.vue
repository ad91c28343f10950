<script setup lang="ts">
// Where an input's sound comes from, and what there is to set about it.
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import { computed, onMounted, ref, watch } from 'vue'
import { api, type SoundDevice } from '../shared/api'
import { state } from '../shared/live'
import { clock } from '../shared/format'
import Field from '../shared/Field.vue'
import ParameterControl from '../shared/ParameterControl.vue'
import { MAIN, useShow } from '../shared/show'
import Library from './Library.vue'
import Waveform from './Waveform.vue'
import { captureOf, devices, listDevices, SHARED } from './microphone'

const show = useShow()
const USES = [
  { label: 'Track', value: 'track' },
  { label: 'Live', value: 'live' },
  { label: 'Device', value: 'device' },
  { label: 'House band', value: 'house' },
]
const input = computed(() => show.input!)
const path = computed(() => `/inputs/${input.value.id}`)
const track = computed(() => input.value.track!)
const place = computed(() => state.value.inputs?.[input.value.id])
const capture = computed(() => captureOf(input.value.id))
const machine = ref<SoundDevice[]>([])

function stretch(from: number, to: number, gesture: string): void {
  show.edit(
    {
      edit: 'together',
      edits: [
        { edit: 'set', path: `${path.value}/track/loop_from_s`, value: from },
        { edit: 'set', path: `${path.value}/track/loop_to_s`, value: to },
      ],
    },
    'Looped stretch',
    gesture,
  )
}
async function lookForDevices(): Promise<void> {
  try {
    machine.value = await api.devices()
  } catch (error) {
    show.complain(error)
  }
}
onMounted(() => void listDevices())
watch(
  () => input.value.use,
  (use, before) => {
    if (before === 'live' && use !== 'live') capture.value.stop()
    if (use === 'device') void lookForDevices()
  },
  { immediate: true },
)

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
const start = (): void =>
  void capture.value.start(
    input.value.live?.device ?? '',
    input.value.live?.left ?? 1,
    input.value.live?.right ?? 2,
  )
const sources = computed(() => [
  { id: '', label: 'Default device' },
  ...devices.value.filter((d) => d.id && d.id !== 'default'),
  { id: SHARED, label: 'A shared page or its sound' },
])
const machines = computed(() => {
  const chosen = input.value.device?.device ?? ''
  const missing = chosen && !machine.value.some((one) => one.name === chosen)
  return [
    { id: '', label: 'Default device' },
    ...machine.value.map((one) => ({ id: one.name, label: one.name })),
    ...(missing ? [{ id: chosen, label: `${chosen} (gone)` }] : []),
  ]
})
// Which channels: asked only where there are more than two.
const channels = computed(() =>
  input.value.use === 'live'
    ? capture.value.channels
    : input.value.use === 'device'
      ? (machine.value.find((one) => one.name === input.value.device?.device)?.channels ?? 2)
      : 2,
)
const pair = computed(() => (input.value.use === 'device' ? input.value.device! : input.value.live!))
const most = computed(() => Math.max(channels.value, pair.value.left ?? 1, pair.value.right ?? 2))
function choose(side: 'left' | 'right', event: Event): void {
  show.set(
    `${path.value}/${input.value.use}/${side}`,
    Number((event.target as HTMLSelectElement).value),
    `${side} channel`,
  )
  if (capture.value.state === 'sending') setTimeout(start)
}
const recording = computed(() => place.value?.recording)
const ENDINGS = { '.jams': 'JAMS', '.csv': 'Table (CSV)', '.mid': 'MIDI', '.txt': 'Labels' }
const busy = ref('')
async function during(what: string, work: Promise<unknown>): Promise<void> {
  busy.value = what
  try {
    await work
  } catch (error) {
    show.complain(error)
  }
  busy.value = ''
}
function keep(event: Event): void {
  const box = event.target as HTMLSelectElement
  if (box.value) void during('Listening to all of it…', api.analysis(track.value.track!, box.value))
  box.value = ''
}
async function trim(): Promise<void> {
  const { from_s, to_s } = await api.rhythm(track.value.track!)
  stretch(Math.round(from_s * 1000) / 1000, Math.round(to_s * 1000) / 1000, '')
}
const parameters = (kind: string) => show.kind(kind)?.parameters ?? []
async function add(): Promise<void> {
  try {
    show.chosenInput = (await api.addInput()).id
  } catch (error) {
    show.complain(error)
  }
}
async function remove(): Promise<void> {
  capture.value.stop()
  try {
    await api.removeInput(input.value.id)
  } catch (error) {
    show.complain(error)
  }
  show.chosenInput = MAIN
}
</script>

<template>
  <div class="card">
    <div v-if="input.id !== MAIN" class="row">
      <Field
        :key="input.id"
        :value="input.name"
        label="Name"
        wide
        @change="(text) => text && show.set(`${path}/name`, text, 'Input name')"
      /><button class="button square" :aria-label="`Close ${input.name}`" @click="remove">
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
    <template v-if="input.use === 'track'">
      <Select
        :model-value="track.track"
        :options="show.tracks"
        option-label="title"
        option-value="id"
        placeholder="Choose a track"
        aria-label="Track"
        class="fill"
        @update:model-value="(id) => show.set(`${path}/track/track`, id, 'Track')"
      />
      <Waveform
        v-if="track.track"
        :key="track.track"
        :track="track"
        :position="place?.position_s ?? 0"
        @seek="(to) => api.seek(input.id, to).catch(show.complain)"
        @stretch="stretch"
      />
      <div class="row">
        <button
          class="button grow"
          @click="show.set(`${path}/track/playing`, !track.playing, track.playing ? 'Pause' : 'Play')"
        >
          <i class="pi" :class="track.playing ? 'pi-pause' : 'pi-play'" />{{
            track.playing ? 'Pause' : 'Play'
          }}
        </button>
        <button
          class="button"
          :class="{ on: track.loop }"
          @click="show.set(`${path}/track/loop`, !track.loop, 'Loop')"
        >
          Loop
        </button>
      </div>
      <ParameterControl
        v-for="one in parameters('track-input')"
        :key="one.name"
        :parameter="one"
        :value="(track as unknown as Record<string, number>)[one.name]!"
        @change="
          (value, gesture) =>
            show.set(`${path}/track/${one.name}`, value, `Track ${one.title.toLowerCase()}`, gesture)
        "
      />
      <div class="row">
        <button
          v-tooltip.left="'Loops the part that has a steady beat, from bar to bar'"
          class="button grow"
          :disabled="!!busy || !track.track"
          @click="during('Looking for the beat…', trim())"
        >
          Trim to the beat
        </button>
        <select
          class="button narrow"
          aria-label="Save what is heard"
          :disabled="!!busy || !track.track"
          @change="keep"
        >
          <option value="">Save as…</option>
          <option v-for="(name, ending) in ENDINGS" :key="ending" :value="ending">{{ name }}</option>
        </select>
      </div>
      <p v-if="busy" class="soft" role="status">{{ busy }}</p>
      <Library />
    </template>
    <template v-else-if="input.use === 'live'">
      <Select
        :model-value="input.live?.device"
        :options="sources"
        option-label="label"
        option-value="id"
        aria-label="Device"
        class="fill"
        @update:model-value="(id) => show.set(`${path}/live/device`, id, 'Device')"
      />
      <button v-if="capture.state !== 'sending'" class="button" @click="start">
        <i class="pi pi-microphone" />Start listening
      </button>
      <button v-else class="button on" @click="capture.stop()">
        <i class="pi pi-microphone" />Stop listening
      </button>
      <p :class="calm ? 'soft' : 'bad'" role="status" data-testid="microphone">
        {{ SAYS[capture.state]
        }}<template v-if="place?.dropped">
          {{ place.dropped }} samples came too fast and were dropped.</template
        >
      </p>
    </template>
    <template v-else-if="input.use === 'device'">
      <Select
        :model-value="input.device?.device"
        :options="machines"
        option-label="label"
        option-value="id"
        aria-label="Device of this machine"
        class="fill"
        @update:model-value="(id) => show.set(`${path}/device/device`, id, 'Device')"
      />
      <button class="button" @click="lookForDevices"><i class="pi pi-refresh" />Look again</button>
      <p v-if="place?.arriving" class="soft" role="status">Sound comes from it.</p>
      <p v-else-if="!machine.length" class="soft" role="status">
        The machine that runs the engine has no device to hear with.
      </p>
    </template>
    <template v-else>
      <ParameterControl
        v-for="parameter in parameters('house-band-settings')"
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
      <p v-if="place?.creep_db" class="soft">
        The level has crept by <span class="num">{{ place.creep_db.toFixed(1) }}</span> dB.
      </p>
    </template>
    <div v-if="most > 2" class="row">
      <label v-for="side in ['left', 'right'] as const" :key="side" class="grow"
        >{{ side === 'left' ? 'Left' : 'Right' }}
        <select
          class="button"
          :aria-label="`${side} channel`"
          :value="pair[side]"
          @change="choose(side, $event)"
        >
          <option v-for="n in most" :key="n">{{ n }}</option>
        </select></label
      >
    </div>
    <p v-if="place?.trouble && input.use !== 'live'" class="bad" role="alert">{{ place.trouble }}</p>
    <p v-if="place?.warning" class="warn" role="status">{{ place.warning }}</p>
    <button
      class="button"
      :class="{ recording: recording && !recording.trouble }"
      @click="api.record(input.id, !recording).catch(show.complain)"
    >
      <i class="pi pi-circle-fill" />{{
        recording ? `Recording ${clock(recording.seconds)} · end it` : 'Record this input'
      }}
    </button>
    <p v-if="recording?.trouble" class="bad" role="alert">{{ recording.trouble }}</p>
    <button class="button" @click="add"><i class="pi pi-plus" />One more input</button>
  </div>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.fill {
  width: 100%;
}
.narrow {
  width: 96px;
  padding: 0 6px;
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
