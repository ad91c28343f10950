<script setup lang="ts">
// A cue: its name and words, when it goes, and what it changes.
import Drawer from 'primevue/drawer'
import { computed } from 'vue'
import type { Cue } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import NameField from '../controls/NameField.vue'
import { referenceOptions } from '../controls/references'
import { useShow } from '../live/show'
import CueChanges from './CueChanges.vue'
import LongPress from './LongPress.vue'
import { useGo } from './useGo'

const props = defineProps<{ cue: Cue }>()
const emit = defineEmits<{ close: [] }>()
const show = useShow()
const { ask } = useGo()
const path = computed(() => `/cues/${props.cue.id}`)
const go = computed(() => props.cue.go!)
const set = (name: string, value: unknown): void => show.set(`${path.value}/${name}`, value, 'Cue')
const WHEN = [
  { value: 'hand', label: 'By hand, at once' },
  { value: 'beat', label: 'By hand, on the next beat' },
  { value: 'bar', label: 'By hand, on the next bar' },
  { value: 'bars', label: 'By hand, on the next so many bars' },
  { value: 'song', label: 'At its place in the song' },
  { value: 'clock', label: 'At a time of the day' },
  { value: 'after', label: 'So many beats after the one before' },
  { value: 'signal', label: 'On a hit, or above a level' },
] as const
const UNITS = [
  { value: 'ms', label: 'ms' },
  { value: 'beats', label: 'beats' },
  { value: 'bars', label: 'bars' },
] as const
const songs = computed(() => [{ value: '', label: 'no song' }, ...referenceOptions(show, 'song')])
const signals = computed(() =>
  [...show.signals.values()].map((signal) => ({ value: signal.id, label: signal.title })),
)
const at = computed(() => props.cue.at_s ?? 0)
const index = computed(() => (show.document?.cues ?? []).findIndex((cue) => cue.id === props.cue.id))
const move = (by: number): void =>
  show.edit({ edit: 'move', path: path.value, index: Math.max(0, index.value + by) }, 'Move cue')
function remove(): void {
  show.edit({ edit: 'remove', path: path.value }, 'Remove cue')
  emit('close')
}
</script>

<template>
  <Drawer visible position="right" header="Cue" class="editor" @update:visible="emit('close')">
    <NameField class="name" :value="cue.name" label="Name of the cue" @change="(name) => set('name', name)" />
    <textarea
      :value="cue.note"
      maxlength="400"
      rows="2"
      placeholder="Words for yourself"
      aria-label="Words for yourself"
      @change="set('note', ($event.target as HTMLTextAreaElement).value)"
    />
    <div class="row">
      <LongPress label="Go to it now" @done="ask(cue.id)">Go to it</LongPress>
      <button class="button" aria-label="Earlier" :disabled="index === 0" @click="move(-1)">
        <i class="pi pi-arrow-up" />
      </button>
      <button class="button" aria-label="Later" @click="move(1)"><i class="pi pi-arrow-down" /></button>
      <span class="grow" />
      <LongPress label="Take the cue away" @done="remove"><i class="pi pi-trash" /></LongPress>
    </div>
    <h2>When it goes</h2>
    <Choice
      :value="go.when ?? 'hand'"
      :options="WHEN"
      label="When it goes"
      @choose="(when) => set('go/when', when)"
    />
    <div class="row">
      <Field
        v-if="go.when === 'bars'"
        label="bars"
        :value="go.bars ?? 4"
        :low="1"
        :high="64"
        @change="(text) => set('go/bars', Number(text))"
      />
      <Field
        v-if="go.when === 'clock'"
        label="at"
        :value="go.clock ?? ''"
        @change="(text) => set('go/clock', text)"
      />
      <Field
        v-if="go.when === 'after'"
        label="beats"
        :value="go.after_beats ?? 0"
        :low="0"
        @change="(text) => set('go/after_beats', Number(text))"
      />
      <template v-if="go.when === 'signal'">
        <Choice
          :value="go.signal ?? ''"
          :options="signals"
          label="Signal"
          placeholder="Which signal"
          find
          @choose="(signal) => set('go/signal', signal)"
        />
        <Field
          label="above"
          :value="go.above ?? 0.5"
          :low="0"
          :high="1"
          @change="(text) => set('go/above', Number(text))"
        />
      </template>
    </div>
    <div class="row">
      <Choice
        class="grow"
        :value="cue.song ?? ''"
        :options="songs"
        label="Song"
        @choose="(song) => set('song', song)"
      />
      <Field label="at second" :value="at" :low="0" @change="(text) => set('at_s', Number(text))" />
    </div>
    <h2>What it changes</h2>
    <div class="row">
      <Field
        label="over"
        :value="cue.over?.amount ?? 0"
        :low="0"
        @change="(text) => set('over/amount', Number(text))"
      />
      <Choice
        :value="cue.over?.unit ?? 'beats'"
        :options="UNITS"
        label="Unit of its time"
        @choose="(unit) => set('over/unit', unit)"
      />
    </div>
    <CueChanges :cue="cue" @change="set" />
  </Drawer>
</template>

<style scoped>
.name {
  font-size: 20px;
  width: 100%;
}
textarea {
  width: 100%;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  padding: 6px 9px;
  color: inherit;
  font: inherit;
  margin-bottom: 8px;
}
h2 {
  margin: 14px 0 6px;
}
.row {
  margin: 6px 0;
}
</style>
