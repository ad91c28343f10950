<script setup lang="ts">
// The set list: played, skipped, repeated, and put in another order by pulling.
import { computed, ref } from 'vue'
import { api, type Song } from '../api/api'
import Choice from '../controls/Choice.vue'
import NameField from '../controls/NameField.vue'
import { learnsAction } from '../controls/learns'
import { useShow } from '../live/show'
import LongPress from './LongPress.vue'
import { clockWords, stretches } from './night'
import { useGo } from './useGo'

const props = defineProps<{ editing: boolean }>()
const show = useShow()
const { song } = useGo()
const rows = computed(() => stretches(show.document?.songs ?? [], show.tracks))
const pulled = ref('')
const set = (row: Song, name: 'skipped' | 'again', on: boolean): void =>
  show.set(`/songs/${row.id}/${name}`, on, name === 'skipped' ? 'Skip song' : 'Repeat song')
function grip(event: PointerEvent, id: string): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  pulled.value = id
}
function drop(event: PointerEvent): void {
  const id = pulled.value
  pulled.value = ''
  const under = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-song]')
  const to = rows.value.findIndex((row) => row.song.id === under?.dataset.song)
  if (id && to >= 0 && under?.dataset.song !== id)
    show.edit({ edit: 'move', path: `/songs/${id}`, index: to }, 'Order of songs')
}
const tracks = computed(() => [
  { value: '', label: 'A band plays itself' },
  ...show.tracks.map((track) => ({ value: track.id, label: track.title })),
])
const add = (track: string): void => {
  const name = show.tracks.find((other) => other.id === track)?.title ?? ''
  api.songs.add({ name, track }).catch(show.complain)
}
const remove = (id: string): void => {
  api.songs.remove(id).catch(show.complain)
}
</script>

<template>
  <section class="songs" aria-label="Songs">
    <div class="row head">
      <LongPress
        label="The song before"
        v-bind="learnsAction('play-song', { which: 'the one before' })"
        @done="song('the one before')"
        ><i class="pi pi-step-backward"
      /></LongPress>
      <LongPress
        label="The same song again"
        v-bind="learnsAction('play-song', { which: 'the same again' })"
        @done="song('the same again')"
        ><i class="pi pi-replay"
      /></LongPress>
      <LongPress label="The next song" v-bind="learnsAction('play-song')" @done="song('the next')"
        >Next song<i class="pi pi-step-forward"
      /></LongPress>
    </div>
    <ol class="scroll">
      <li
        v-for="row in rows"
        :key="row.song.id"
        :data-song="row.song.id"
        :class="{
          here: row.song.id === show.document?.song,
          skipped: row.song.skipped,
          pulled: pulled === row.song.id,
        }"
      >
        <button
          class="grip"
          :aria-label="`Pull ${row.song.name} to another place`"
          @pointerdown="grip($event, row.song.id!)"
          @pointerup="drop"
        >
          <i class="pi pi-bars" />
        </button>
        <NameField
          v-if="props.editing"
          class="grow"
          :value="row.song.name"
          :label="`Name of the song ${row.song.name}`"
          @change="(name) => show.set(`/songs/${row.song.id}/name`, name, 'Rename song')"
        />
        <LongPress
          v-else
          class="grow name"
          :label="`Play ${row.song.name}`"
          @done="song('a certain one', row.song.id)"
        >
          <span>{{ row.song.name }}</span><span v-if="row.missing" class="bad">its track is missing</span>
        </LongPress>
        <span class="num soft">{{ row.song.skipped ? 'skip' : clockWords(row.length) }}</span>
        <button
          class="tiny"
          :class="{ on: row.song.again }"
          :aria-pressed="row.song.again"
          :aria-label="`Repeat ${row.song.name}`"
          @click="set(row.song, 'again', !row.song.again)"
        >
          <i class="pi pi-sync" />
        </button>
        <button
          class="tiny"
          :class="{ on: row.song.skipped }"
          :aria-pressed="row.song.skipped"
          :aria-label="`Skip ${row.song.name}`"
          @click="set(row.song, 'skipped', !row.song.skipped)"
        >
          <i class="pi pi-forward" />
        </button>
        <LongPress
          v-if="props.editing"
          :label="`Take ${row.song.name} off the list`"
          @done="remove(row.song.id!)"
          ><i class="pi pi-trash"
        /></LongPress>
      </li>
    </ol>
    <Choice
      v-if="editing || !rows.length"
      value=""
      :options="tracks"
      label="Add a song"
      placeholder="Add a song…"
      @choose="add"
    />
  </section>
</template>

<style scoped>
.songs {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-height: 0;
  min-width: 0;
}
.head {
  gap: 6px;
}
.head > * {
  min-height: 44px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  flex: 1;
}
li {
  display: flex;
  align-items: center;
  gap: 4px;
  border-bottom: 1px solid var(--edge);
  min-height: 42px;
}
li.here {
  background: color-mix(in srgb, var(--hand) 20%, transparent);
}
li.skipped {
  opacity: 0.5;
}
li.pulled {
  outline: 2px solid var(--bolt);
}
.grip,
.tiny {
  background: none;
  border: 0;
  color: var(--soft);
  min-width: 40px;
  min-height: 40px;
  cursor: pointer;
  touch-action: none;
}
.grip {
  cursor: grab;
}
.tiny.on {
  color: var(--bolt);
}
.name {
  background: none;
  border-color: transparent;
  font-size: 17px;
  justify-content: flex-start;
  padding: 0 4px;
  min-width: 0;
}
.name span {
  overflow: hidden;
  text-overflow: ellipsis;
}
.bad {
  color: var(--alarm);
  font-size: 14px;
}
</style>
