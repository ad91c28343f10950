<script setup lang="ts">
// What a cue changes, one row a thing; what is not named stays as it is.
import { computed } from 'vue'
import type { Cue } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import Toggle from '../controls/Toggle.vue'
import { referenceName, referenceOptions, type Option } from '../controls/references'
import { useShow } from '../live/show'
import CueValues from './CueValues.vue'

const props = defineProps<{ cue: Cue }>()
const emit = defineEmits<{ change: [name: string, value: unknown] }>()
const show = useShow()
const stays = (label: string): Option => ({ value: '', label })
const looks = computed(() => [stays('the look stays'), ...referenceOptions(show, 'look')])
const songs = computed(() => [stays('what plays stays'), ...referenceOptions(show, 'song')])
const groups = computed(() => [stays('the lamps it was made from'), ...referenceOptions(show, 'group')])
const routes = computed(() => [stays('All routes'), ...referenceOptions(show, 'routes')])
const DARK = [
  { value: '', label: 'dark or light stays' },
  { value: 'off', label: 'Light again' },
  { value: 'all', label: 'Blackout' },
  { value: 'lights', label: 'Lamps dark' },
  { value: 'pictures', label: 'Pictures dark' },
] as const
const name = (of: string, id: string): string => referenceName(show, of, id) || 'what is gone'
const presets = computed(() => props.cue.presets ?? [])
const palettes = computed(() => props.cue.palettes ?? [])
const switched = computed(() => props.cue.routes ?? [])
const chases = computed(() => props.cue.chases ?? null)
const without = <T,>(rows: readonly T[], at: number): T[] => rows.filter((_, i) => i !== at)
const replaced = <T,>(rows: readonly T[], at: number, row: T): T[] =>
  rows.map((old, i) => (i === at ? row : old))
const tempo = (text: string): void => emit('change', 'bpm', text === '' ? null : Number(text))
function run(chase: string): void {
  const now = chases.value ?? []
  emit('change', 'chases', now.includes(chase) ? now.filter((id) => id !== chase) : [...now, chase])
}
</script>

<template>
  <div class="changes">
    <Choice
      :value="cue.look ?? ''"
      :options="looks"
      label="Look"
      @choose="(look) => emit('change', 'look', look)"
    />
    <div v-for="(preset, i) in presets" :key="preset" class="row">
      <span class="grow">Preset {{ name('preset', preset) }}</span>
      <button
        class="button plain"
        aria-label="Not this preset"
        @click="emit('change', 'presets', without(presets, i))"
      >
        <i class="pi pi-times" />
      </button>
    </div>
    <Choice
      value=""
      :options="referenceOptions(show, 'preset')"
      label="Add a preset"
      placeholder="+ preset"
      find
      @choose="(id) => emit('change', 'presets', [...presets, id])"
    />
    <div class="row">
      <span>Colours</span>
      <Choice
        class="grow"
        :value="cue.palette ?? ''"
        :options="[{ value: '', label: 'the palette in use stays' }, ...referenceOptions(show, 'palette')]"
        label="Palette in use"
        @choose="(palette) => emit('change', 'palette', palette)"
      />
    </div>
    <div v-for="(row, i) in palettes" :key="`${row.palette} ${row.group}`" class="row">
      <span>{{ name('palette', row.palette) }} on</span>
      <Choice
        class="grow"
        :value="row.group ?? ''"
        :options="groups"
        label="Onto which lamps"
        @choose="(group) => emit('change', 'palettes', replaced(palettes, i, { ...row, group }))"
      />
      <button
        class="button plain"
        aria-label="Not this palette"
        @click="emit('change', 'palettes', without(palettes, i))"
      >
        <i class="pi pi-times" />
      </button>
    </div>
    <Choice
      value=""
      :options="referenceOptions(show, 'palette')"
      label="Add a palette"
      placeholder="+ palette"
      find
      @choose="(palette) => emit('change', 'palettes', [...palettes, { palette, group: '' }])"
    />
    <div class="row">
      <Toggle
        :value="chases !== null"
        label="Sets which chases run"
        @change="(on: boolean) => emit('change', 'chases', on ? [] : null)"
      />
      <span>Sets which chases run</span>
    </div>
    <div v-if="chases" class="row wrap">
      <button
        v-for="chase in referenceOptions(show, 'chase')"
        :key="chase.value"
        class="button"
        :class="{ on: chases.includes(chase.value) }"
        :aria-pressed="chases.includes(chase.value)"
        @click="run(chase.value)"
      >
        {{ chase.label }}
      </button>
    </div>
    <div v-for="(row, i) in switched" :key="i" class="row">
      <Choice
        class="grow"
        :value="row.routes ?? ''"
        :options="routes"
        label="Which routes"
        find
        @choose="(some) => emit('change', 'routes', replaced(switched, i, { ...row, routes: some }))"
      />
      <Toggle
        :value="row.act ?? true"
        label="act"
        @change="(act: boolean) => emit('change', 'routes', replaced(switched, i, { ...row, act }))"
      />
      act
      <button
        class="button plain"
        aria-label="Not these routes"
        @click="emit('change', 'routes', without(switched, i))"
      >
        <i class="pi pi-times" />
      </button>
    </div>
    <button class="button" @click="emit('change', 'routes', [...switched, { routes: '', act: true }])">
      + routes on or off
    </button>
    <CueValues :cue="cue" @change="(rows) => emit('change', 'values', rows)" />
    <Field label="Tempo (empty: stays)" :value="cue.bpm ?? ''" @change="tempo" />
    <Choice
      :value="cue.plays ?? ''"
      :options="songs"
      label="What plays"
      @choose="(song) => emit('change', 'plays', song)"
    />
    <Choice
      :value="cue.blackout ?? ''"
      :options="DARK"
      label="Dark or light"
      @choose="(dark) => emit('change', 'blackout', dark || null)"
    />
  </div>
</template>

<style scoped>
.changes {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.wrap {
  flex-wrap: wrap;
}
</style>
