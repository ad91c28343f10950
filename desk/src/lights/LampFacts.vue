<script setup lang="ts">
// Who the chosen lamps are: name, kind, mode, address with its switches, place, limits; what is wrong with it.
import { computed, ref, watch } from 'vue'
import { api, type Lamp } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import NameField from '../controls/NameField.vue'
import { useShow } from '../live/show'
import { useClashes } from './useClashes'

const props = defineProps<{ lamps: Lamp[] }>()
const show = useShow()
const { clashes } = useClashes()
const only = computed(() => (props.lamps.length === 1 ? props.lamps[0]! : null))
const first = computed(() => props.lamps[0]!)
const ids = computed(() => props.lamps.map((lamp) => lamp.id))
const kinds = computed(() =>
  show.kinds
    .filter((kind) => kind.family === 'fixture' && Number(kind.modes?.[0]?.channels) > 0)
    .map((kind) => ({ value: kind.kind, label: kind.title })),
)
const info = computed(() => show.kindOf(first.value.fixture))
const modes = computed(() =>
  (info.value?.modes ?? []).map((mode) => ({ value: String(mode.name), label: String(mode.name) })),
)
const mode = computed(() => first.value.mode || modes.value[0]?.value || '')
const clash = computed(() => clashes.value.find((found) => found.lamp === only.value?.id))
const switches = ref<boolean[]>([])
watch(
  () => only.value?.address,
  async (address) => {
    switches.value = address ? await api.lamps.switches(address).catch(() => []) : []
  },
  { immediate: true },
)
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
const AXES = [
  { name: 'x', label: 'Across, m' },
  { name: 'y', label: 'Into, m' },
  { name: 'z', label: 'Up, m' },
  { name: 'turn', label: 'Turn, °' },
  { name: 'lean', label: 'Lean, °' },
  { name: 'roll', label: 'Roll, °' },
] as const
function place(name: (typeof AXES)[number]['name'], text: string): void {
  const value = Number(text)
  if (!Number.isFinite(value)) return
  const edits = props.lamps.map((lamp) => ({
    ...{ edit: 'set' as const, path: `/lamps/${lamp.id}/place/${name}`, value },
  }))
  show.edit({ edit: 'together', edits }, 'Place of lamps')
}
function limit(end: 0 | 1, text: string): void {
  const value = Number(text)
  if (!Number.isFinite(value)) return
  const edits = props.lamps.map((lamp) => {
    const level = [...((lamp.limits?.level as [number, number] | undefined) ?? [0, 1])]
    level[end] = value / 100
    const limits = { ...lamp.limits, level }
    return { edit: 'set' as const, path: `/lamps/${lamp.id}/limits`, value: limits }
  })
  show.edit({ edit: 'together', edits }, 'Limits of lamps')
}
const limits = computed(() => (first.value.limits?.level as [number, number] | undefined) ?? [0, 1])
</script>

<template>
  <div class="facts">
    <p v-if="clash" class="bad row" role="alert">
      <span class="grow">{{ clash.text }}</span>
      <button class="button" @click="doing(api.lamps.address(ids))">To the next that is free</button>
    </p>
    <div v-if="only" class="row">
      <span class="num soft">{{ only.number }}</span>
      <NameField
        class="grow"
        label="Name of the lamp"
        :value="only.name"
        @change="(name) => show.set(`/lamps/${only!.id}/name`, name, 'Name of a lamp')"
      />
    </div>
    <div class="row">
      <Choice
        class="grow"
        label="Kind of lamp"
        :value="first.fixture.kind"
        :options="kinds"
        @choose="(kind) => doing(api.lamps.exchange(ids, kind))"
      />
    </div>
    <div v-if="modes.length > 1" class="row">
      <Choice
        class="grow"
        label="Mode"
        :value="mode"
        :options="modes"
        @choose="(to) => doing(api.lamps.exchange(ids, first.fixture.kind, to, first.pixels))"
      />
    </div>
    <div class="row">
      <Field
        label="Address"
        :value="`${first.universe}.${first.address}`"
        @change="(text) => doing(api.lamps.address(ids, text))"
      />
      <Field
        v-if="(info?.pixels?.[1] ?? 1) > 1"
        label="Pixels"
        :value="first.pixels || info!.pixels![0]!"
        @change="(text) => doing(api.lamps.exchange(ids, first.fixture.kind, mode, Number(text)))"
      />
    </div>
    <div v-if="only" class="switches" role="img" :aria-label="`Switches of ${only.address}`">
      <i v-for="(on, index) in switches" :key="index" :class="{ on }"><b />{{ 2 ** index }}</i>
    </div>
    <div class="places">
      <Field
        v-for="axis in AXES"
        :key="axis.name"
        :label="axis.label"
        :value="first.place?.[axis.name] ?? 0"
        @change="(text) => place(axis.name, text)"
      />
    </div>
    <div class="row">
      <Field label="Never below, %" :value="Math.round(limits[0] * 100)" @change="(text) => limit(0, text)" />
      <Field label="nor above" :value="Math.round(limits[1] * 100)" @change="(text) => limit(1, text)" />
    </div>
    <div class="row">
      <span class="grow" />
      <button class="button danger" @click="doing(api.lamps.takeDown(ids))">
        Take {{ only ? 'it' : `all ${lamps.length}` }} down
      </button>
    </div>
  </div>
</template>

<style scoped>
.facts {
  display: flex;
  flex-direction: column;
  gap: 7px;
  padding: 8px;
  margin-bottom: 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
}
.bad {
  color: var(--alarm);
  margin: 0;
}
.switches {
  display: flex;
  gap: 5px;
}
.switches i {
  font:
    12px 'JetBrains Mono Variable',
    monospace;
  color: var(--soft);
  display: grid;
  justify-items: center;
  gap: 3px;
}
.switches b {
  width: 16px;
  height: 26px;
  border: 1px solid var(--edge-strong);
  border-radius: 3px;
  background: linear-gradient(var(--ground) 50%, var(--soft) 50%);
}
.switches .on b {
  background: linear-gradient(var(--bolt) 50%, var(--ground) 50%);
}
.places {
  display: grid;
  grid-template-columns: repeat(2, 1fr);
  gap: 6px;
}
</style>
