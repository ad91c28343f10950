<script setup lang="ts">
// A track of the library: which, where in it, what of it is looped, and what is heard in it as a file.
import { computed, ref } from 'vue'
import { api, type Show } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import Choice from '../controls/Choice.vue'
import ParameterControl from '../controls/ParameterControl.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import Library from './Library.vue'
import Waveform from './Waveform.vue'

const props = defineProps<{ input: NonNullable<Show['inputs']>[number] }>()
const show = useShow()
const path = computed(() => `/inputs/${props.input.id}/track`)
const track = computed(() => props.input.track!)
const position = computed(() => state.value.inputs?.[props.input.id]?.position_s ?? 0)
const tracks = computed(() => show.tracks.map((track) => ({ value: track.id, label: track.title })))
const parameters = computed(() => show.kind('input', 'track-settings')?.parameters ?? [])
const set = (name: string, value: unknown, step: string, gesture = ''): void =>
  show.set(`${path.value}/${name}`, value, step, gesture)

function stretch(from: number, to: number, gesture: string): void {
  show.edit(
    {
      edit: 'together',
      edits: [
        { edit: 'set', path: `${path.value}/loop_from_s`, value: from },
        { edit: 'set', path: `${path.value}/loop_to_s`, value: to },
      ],
    },
    'Looped stretch',
    gesture,
  )
}
const ENDINGS = [
  { value: '.jams', label: 'JAMS' },
  { value: '.csv', label: 'Table (CSV)' },
  { value: '.mid', label: 'MIDI' },
  { value: '.txt', label: 'Labels' },
]
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
const keep = (ending: string): Promise<void> =>
  during('Listening to all of it…', api.analysis(track.value.track!, ending))
async function trim(): Promise<void> {
  const { from_s, to_s } = await api.rhythm(track.value.track!)
  stretch(Math.round(from_s * 1000) / 1000, Math.round(to_s * 1000) / 1000, '')
}
const seek = (to: number): void => {
  api.seek(props.input.id, to).catch(show.complain)
}
</script>

<template>
  <Choice
    :value="track.track"
    :options="tracks"
    placeholder="Choose a track"
    label="Track"
    @choose="(id) => set('track', id, 'Track')"
  />
  <Waveform
    v-if="track.track"
    :key="track.track"
    :track="track"
    :position="position"
    @seek="seek"
    @stretch="stretch"
  />
  <div class="row">
    <button class="button grow" @click="set('playing', !track.playing, track.playing ? 'Pause' : 'Play')">
      <i class="pi" :class="track.playing ? 'pi-pause' : 'pi-play'" />{{ track.playing ? 'Pause' : 'Play' }}
    </button>
    <button class="button" :class="{ on: track.loop }" @click="set('loop', !track.loop, 'Loop')">Loop</button>
  </div>
  <ParameterControl
    v-for="parameter in parameters"
    :key="parameter.name"
    :parameter="parameter"
    :value="(track as unknown as Record<string, number>)[parameter.name]!"
    @change="
      (value, gesture) => set(parameter.name, value, `Track ${parameter.title.toLowerCase()}`, gesture)
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
    <ActMenu
      title="Save as…"
      label="Save what is heard"
      :options="ENDINGS"
      :disabled="!!busy || !track.track"
      @choose="keep"
    />
  </div>
  <p v-if="busy" class="soft" role="status">{{ busy }}</p>
  <Library />
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
