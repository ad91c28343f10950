<script setup lang="ts">
// What every control does, in one table, with what arrives right now beside it.
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import Drawer from 'primevue/drawer'
import { computed, ref, watch } from 'vue'
import { api, type Mapping } from '../api/api'
import { learn } from '../controls/learns'
import { controllers } from '../live/midi'
import { state } from '../live/live'
import { useShow } from '../live/show'
import { said, surface } from '../live/surface'
import Choice from '../controls/Choice.vue'
import ControllerSets from './ControllerSets.vue'
import GivesRow from './GivesRow.vue'
import { actionWords, faderWords, padWords, pathWords } from './words'

const emit = defineEmits<{ close: [] }>()
const show = useShow()
const find = ref('')
const clashes = ref<Record<string, string[]>>({})
watch(
  () => show.document?.mappings,
  async () => {
    clashes.value = await api.mappings.conflicts().catch(() => ({}))
  },
  { immediate: true },
)
function does(mapping: Mapping): string {
  if (mapping.action) return actionWords(show, mapping.action)
  if (mapping.does === 'value') return pathWords(show, mapping.target ?? '')
  if (mapping.does === 'hit')
    return `hit of ${show.document?.modulators?.find((each) => each.id === mapping.target)?.name ?? 'what is gone'}`
  const own = /\D/.test(mapping.target ?? '')
  const pages = show.document?.pages ?? []
  const pad = pages.flatMap((page) => page.pads ?? []).find((pad) => pad.id === mapping.target)
  const fader = pages.flatMap((page) => page.faders ?? []).find((fader) => fader.id === mapping.target)
  if (!own) return `${mapping.does} ${mapping.target} of the open page`
  if (pad) return `pad ${padWords(show, pad)}`
  return fader ? `fader ${faderWords(show, fader)}` : 'what is gone'
}
const rows = computed(() =>
  (show.document?.mappings ?? [])
    .map((mapping) => ({ ...mapping, words: does(mapping), clash: clashes.value[mapping.id!]?.length ?? 0 }))
    .filter((row) =>
      `${row.source} ${row.controller} ${row.words}`.toLowerCase().includes(find.value.toLowerCase()),
    ),
)
const CODINGS = [
  { value: 'absolute', label: '0 to 127' },
  { value: 'fine', label: '14 bits' },
  { value: 'twos', label: 'turns: 1, 127' },
  { value: 'offset', label: 'turns: 65, 63' },
  { value: 'sign', label: 'turns: 1, 65' },
] as const
const set = (id: string, name: string, value: unknown): void =>
  show.set(`/mappings/${id}/${name}`, value, 'Mapping')
const again = ({ does, target, action, low, high }: Mapping): void =>
  learn({ does: does!, target: target!, action: action ?? null, low, high } as Parameters<typeof learn>[0])
const remove = (id: string): void => show.edit({ edit: 'remove', path: `/mappings/${id}` }, 'Mapping')
const there = computed(() => [...new Set([...controllers.value, ...(state.value.ports?.controllers ?? [])])])
const heard = computed(() => [...said.value].reverse())
</script>

<template>
  <Drawer visible position="bottom" header="Controllers" class="sheet" @update:visible="emit('close')">
    <div class="both" data-learns-not>
      <div class="table">
        <div class="row">
          <input
            v-model="find"
            class="find"
            placeholder="Find a control, or what it does"
            aria-label="Find a mapping"
          />
          <span class="soft">{{ there.length ? there.join(', ') : 'No controller is there' }}</span>
          <ControllerSets />
        </div>
        <DataTable :value="rows" data-key="id" size="small" scrollable scroll-height="flex">
          <Column field="controller" header="Controller" sortable />
          <Column field="source" header="Control" sortable />
          <Column field="words" header="Does" sortable />
          <Column header="Says">
            <template #body="{ data }">
              <Choice
                v-if="data.source.includes(' cc ')"
                :value="data.coding"
                :options="CODINGS"
                label="How it says its value"
                @choose="(to) => set(data.id, 'coding', to)"
              />
            </template>
          </Column>
          <Column header="">
            <template #body="{ data }">
              <span v-if="data.id in surface.waits" class="bolt">off its value</span>
              <span v-if="data.clash" class="bad">moves {{ data.clash }} more</span>
            </template>
          </Column>
          <Column header="">
            <template #body="{ data }">
              <div class="row tools">
                <button
                  class="button"
                  :class="{ on: data.muted }"
                  :aria-pressed="data.muted"
                  @click="set(data.id, 'muted', !data.muted)"
                >
                  Mute
                </button>
                <button class="button" @click="again(data)">Teach anew</button>
                <button class="button plain" :aria-label="`Forget ${data.source}`" @click="remove(data.id)">
                  <i class="pi pi-times" />
                </button>
              </div>
            </template>
          </Column>
          <template #empty
            >No control does anything yet. Press Learn, touch a pad, a fader or a button of the desk, then
            move the control.</template
          >
        </DataTable>
        <GivesRow />
      </div>
      <ol class="heard num scroll" aria-label="What arrives">
        <li v-for="row in heard" :key="row.number">
          <b>{{ row.source }}</b> {{ row.value.toFixed(2) }} <span class="soft">{{ row.controller }}</span>
          <span class="did">{{ row.did || 'does nothing' }}</span>
        </li>
        <li v-if="!heard.length" class="soft">Nothing has arrived yet.</li>
      </ol>
    </div>
  </Drawer>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 14px;
  height: 100%;
  min-height: 0;
}
.table {
  display: flex;
  flex-direction: column;
  min-height: 0;
  gap: 6px;
}
.find {
  width: 260px;
  min-height: 36px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  padding: 0 10px;
}
.heard {
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 13px;
}
.heard li {
  border-bottom: 1px solid var(--edge);
  padding: 3px 0;
}
.did {
  display: block;
  color: var(--hand);
}
.tools {
  gap: 4px;
}
.bad {
  color: var(--alarm);
}
.bolt {
  color: var(--bolt);
}
</style>
