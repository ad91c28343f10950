<script setup lang="ts">
// A palette: its colours, which lamps have something of their own in it, who can't show it.
import { computed, ref, watch } from 'vue'
import { api, type Palette } from '../api/api'
import NameField from '../controls/NameField.vue'
import { useShow } from '../live/show'
import { useChosen } from './chosen'
import { useNewest } from './useNewest'

const props = defineProps<{ palette: Palette }>()
const show = useShow()
const chosen = useChosen()
const time = ref(0)
const inBeats = ref(false)
const own = computed(() => Object.keys(props.palette.lamps).filter((id) => chosen.byId.has(id)))
const users = computed(
  () => chosen.lamps.filter((lamp) => Object.values(lamp.uses ?? {}).includes(props.palette.id)).length,
)
const far = ref<{ names: string[]; shown: string } | null>(null)
watch(
  () => [props.palette.colours.join(), chosen.ids.join()],
  async () => {
    const ids = chosen.ids.length ? chosen.ids : own.value
    far.value = null
    for (const colour of props.palette.kind === 'colour' && ids.length ? props.palette.colours : []) {
      const found = await api.lamps.reach(ids, colour).catch(() => [])
      const not = found.filter((lamp) => !lamp.near)
      if (not.length)
        far.value = { names: not.map((lamp) => chosen.byId.get(lamp.lamp)?.name ?? ''), shown: not[0]!.shown }
    }
  },
  { immediate: true },
)
const { send } = useNewest(show.complain)
function recolour(index: number, input: HTMLInputElement): void {
  const colour = input.value
  send(() => api.palettes.recolour(props.palette.id, index, colour, `palette-${index}`))
}
const cannot = ref<string[]>([])
async function recall(): Promise<void> {
  try {
    const over = inBeats.value ? { over_beats: time.value } : { over_ms: Math.round(time.value * 1000) }
    cannot.value = (await api.palettes.recall(props.palette.id, chosen.ids, over)).cannot
  } catch (error) {
    show.complain(error)
  }
}
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
</script>

<template>
  <div class="row">
    <NameField
      class="grow"
      label="Name of the palette"
      :value="palette.name"
      @change="(name) => show.set(`/palettes/${palette.id}/name`, name, 'Name of a palette')"
    />
    <button
      class="tiny"
      :aria-label="`Remove the palette ${palette.name}`"
      @click="doing(api.palettes.remove(palette.id))"
    >
      <i class="pi pi-trash" />
    </button>
  </div>
  <div class="row wrap">
    <input
      v-for="(colour, index) in palette.colours"
      :key="index"
      type="color"
      :value="colour"
      :aria-label="`Colour ${index + 1} of ${palette.name}`"
      @input="recolour(index, $event.target as HTMLInputElement)"
    />
  </div>
  <p class="soft">
    {{ own.length }} lamps have something of their own in it; {{ users }} follow it now.
    <button v-if="own.length" class="button" @click="chosen.choose(own)">Choose those</button>
  </p>
  <p v-if="far" class="far" role="status">
    <i :style="{ background: far.shown }" />{{ far.names.slice(0, 3).join(', ')
    }}{{ far.names.length > 3 ? ` and ${far.names.length - 3} more` : '' }} can’t show it: this is their
    nearest.
  </p>
  <p v-if="cannot.length" class="far" role="status">It is nothing for {{ cannot.slice(0, 3).join(', ') }}.</p>
  <div class="row wrap">
    <button class="button on" @click="recall">
      {{ chosen.ids.length ? `Onto the ${chosen.ids.length} chosen` : 'Onto its own lamps' }}
    </button>
    <label class="soft"
      >over <input v-model.number="time" class="num time" type="number" min="0" max="60" step="0.5"
    /></label>
    <button
      class="button"
      :aria-label="`Counted in ${inBeats ? 'beats' : 'seconds'}`"
      @click="inBeats = !inBeats"
    >
      {{ inBeats ? 'beats' : 's' }}
    </button>
    <button
      class="button"
      :disabled="!chosen.ids.length"
      @click="doing(api.palettes.merge(palette.id, chosen.ids))"
    >
      Take in what the chosen show
    </button>
  </div>
</template>

<style scoped>
.wrap {
  flex-wrap: wrap;
  gap: 7px;
}
input[type='color'] {
  width: 46px;
  height: 40px;
  padding: 0;
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  background: none;
}
.time {
  width: 62px;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  padding: 0 6px;
}
.far {
  color: var(--bolt);
}
.far i {
  display: inline-block;
  width: 18px;
  height: 18px;
  border-radius: 4px;
  margin-right: 6px;
  vertical-align: -4px;
}
.tiny {
  min-width: 34px;
  min-height: 34px;
  background: none;
  border: 0;
  color: var(--soft);
  cursor: pointer;
}
</style>
