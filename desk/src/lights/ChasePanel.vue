<script setup lang="ts">
// A chase: what it does, the colours that it lays on, and where it runs, each group with a progress of its own.
import { computed } from 'vue'
import { api, type Chase } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import NameField from '../controls/NameField.vue'
import PartControls from '../controls/PartControls.vue'
import { useShow } from '../live/show'
import ColourBorders from './ColourBorders.vue'

const props = defineProps<{ chase: Chase }>()
const show = useShow()
const path = computed(() => `/chases/${props.chase.id}`)
const groups = computed(() => show.document?.groups ?? [])
const nameOf = (id: string): string =>
  groups.value.find((group) => group.id === id)?.name ?? 'no group any more'
const all = computed(() => groups.value.map((group) => ({ value: group.id, label: group.name })))
const free = computed(() =>
  all.value.filter((group) => !props.chase.runs?.some((run) => run.group === group.value)),
)
const running = computed(() => (props.chase.runs ?? []).some((run) => run.part.values?.running))
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
</script>

<template>
  <div class="row">
    <NameField
      class="grow"
      label="Name of the chase"
      :value="chase.name"
      @change="(name) => show.set(`${path}/name`, name, 'Name of a chase')"
    />
    <button
      class="button"
      :class="{ on: running }"
      :disabled="!chase.runs?.length"
      @click="doing(api.chases.run(chase.id, !running))"
    >
      {{ running ? 'Stop' : 'Start' }}
    </button>
    <button
      class="tiny"
      :aria-label="`Remove the chase ${chase.name}`"
      @click="show.edit({ edit: 'remove', path }, 'Remove chase')"
    >
      <i class="pi pi-trash" />
    </button>
  </div>
  <div v-for="run in chase.runs" :key="run.id" class="run" :data-run="run.group">
    <div class="row">
      <strong class="grow">{{ nameOf(run.group) }}</strong>
      <button
        class="tiny"
        :aria-label="`Not on ${nameOf(run.group)} any more`"
        @click="show.edit({ edit: 'remove', path: `${path}/runs/${run.id}` }, 'Chase off a group')"
      >
        <i class="pi pi-times" />
      </button>
    </div>
    <PartControls :part="run.part" :path="`${path}/runs/${run.id}/part`" :columns="1" />
  </div>
  <div class="row wrap">
    <ActMenu
      title="On a group"
      icon="pi-plus"
      :disabled="!free.length"
      :options="free"
      @choose="(group) => doing(api.chases.runOn(chase.id, group))"
    />
    <ActMenu
      title="Copy it to"
      icon="pi-copy"
      :disabled="!all.length"
      :options="all"
      @choose="(group) => doing(api.chases.copy(chase.id, group))"
    />
  </div>
  <PartControls :part="chase.part" :path="`${path}/part`" :columns="1" />
  <ColourBorders
    :colours="chase.colours ?? []"
    @change="(colours, gesture) => show.set(`${path}/colours`, colours, 'Colours of a chase', gesture)"
  />
</template>

<style scoped>
.run {
  border: 1px solid var(--edge);
  border-radius: 8px;
  padding: 4px 8px;
  margin: 6px 0;
}
.wrap {
  flex-wrap: wrap;
  margin: 6px 0;
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
