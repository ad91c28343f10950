<script setup lang="ts">
// The chosen part with both values of every parameter, and the presets of it, of its layer and of the look.
import { computed, ref } from 'vue'
import { api, type Show } from '../api/api'
import Choice from '../controls/Choice.vue'
import PartControls from '../controls/PartControls.vue'
import PresetList from '../controls/PresetList.vue'
import { useShow } from '../live/show'
import type { Step } from './useParts'

type Layer = NonNullable<NonNullable<Show['looks']>[number]['layers']>[number]
const props = defineProps<{ step: Step; layer?: Layer; base: string; layers: Layer[] }>()
const show = useShow()
const groups = computed(() =>
  props.layers.filter((layer) => layer.source.kind === 'group' && layer.id !== props.layer?.id),
)
const inside = computed(() => [
  { value: '', label: 'in no group' },
  ...groups.value.map((group) => ({ value: group.id, label: `in ${group.name}` })),
])
const toggle = (): void => {
  const { part, path, title } = props.step
  show.set(`${path}/on`, !part.on, `${title} ${part.on ? 'off' : 'on'}`)
}
const remove = (): void => {
  api.removePart(props.step.path).catch(show.complain)
}

const SCOPES = computed(() => [
  { scope: 'part' as const, title: props.step.title, address: props.step.part.id },
  ...(props.layer ? [{ scope: 'layer' as const, title: 'Layer', address: props.layer.id }] : []),
  { scope: 'look' as const, title: 'Look', address: show.look!.id },
])
const keeps = ref('')
const kept = computed(() => SCOPES.value.find((choice) => choice.scope === keeps.value))
function toggleKept(scope: string): void {
  keeps.value = keeps.value === scope ? '' : scope
}
</script>

<template>
  <div class="row about">
    <h2>{{ step.title }}</h2>
    <span v-if="layer" class="soft">of {{ layer.name }}</span>
    <Choice
      v-if="layer && groups.length"
      v-tooltip.bottom="'The group that this layer belongs to'"
      :value="layer.inside"
      :options="inside"
      label="Group"
      @choose="(id) => show.set(`${base}/layers/${layer!.id}/inside`, id, 'Group')"
    />
    <span class="grow" />
    <template v-if="step.family === 'effect'">
      <button class="button" :class="{ on: step.part.on }" @click="toggle">
        {{ step.part.on ? 'On' : 'Off' }}
      </button>
      <button class="button plain" :aria-label="`Remove ${step.title}`" @click="remove">
        <i class="pi pi-trash" />
      </button>
    </template>
  </div>
  <p class="soft">{{ show.kindOf(step.part)?.help }}</p>
  <PartControls :key="step.part.id" :part="step.part" :path="step.path" :columns="1" />
  <div class="row keeps">
    <span class="soft">Presets of</span>
    <button
      v-for="choice in SCOPES"
      :key="choice.scope"
      class="button"
      :class="{ on: keeps === choice.scope }"
      @click="toggleKept(choice.scope)"
    >
      {{ choice.title }}
    </button>
  </div>
  <PresetList v-if="kept" :key="kept.scope" :scope="kept.scope" :address="kept.address" />
</template>

<style scoped>
p {
  margin: 2px 0 8px;
  font-size: 14px;
}
.about {
  min-height: 34px;
  gap: 8px;
  flex-wrap: wrap;
}
.keeps {
  gap: 6px;
  margin: 8px 0;
}
.keeps .button {
  min-height: 32px;
  padding: 0 9px;
}
</style>
