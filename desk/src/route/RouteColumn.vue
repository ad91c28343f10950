<script setup lang="ts">
// Anything heard moves anything seen. Four views of the same: sentences, modulators, a map, what is kept.
import { computed, ref, watch } from 'vue'
import type { Route } from '../api/api'
import { lookedAt, only } from '../controls/panel'
import TabRow from '../controls/TabRow.vue'
import { useShow } from '../live/show'
import KeptView from './KeptView.vue'
import MapView from './MapView.vue'
import ModulatorsView from './ModulatorsView.vue'
import NewRoute from './NewRoute.vue'
import RestingSignal from './RestingSignal.vue'
import RouteSentence from './RouteSentence.vue'
import TypedRoute from './TypedRoute.vue'
import { useMoved } from './useMoved'

const show = useShow()
const VIEWS = (['Routes', 'Modulators', 'Map', 'Kept'] as const).map((view) => ({ value: view, label: view }))
const view = ref<(typeof VIEWS)[number]['value']>('Routes')
const byMotion = ref(false)
const open = ref('')
const adding = ref(false)
const all = computed(() => show.document?.routes ?? [])
const moved = useMoved()
/** Routes that move only what looks that are not shown have: out of the way until they are asked for. */
const elsewhere = computed(
  () =>
    new Set(
      all.value
        .filter((route) => route.targets.every((target) => show.unseen.has(target.split('.')[0]!)))
        .map((route) => route.id),
    ),
)
const everywhere = ref(false)
const elsewhereSays = computed(() => {
  if (everywhere.value) return 'Leave out routes of looks that are not shown'
  const { size } = elsewhere.value
  return `${size} more ${size === 1 ? 'route belongs' : 'routes belong'} to looks that are not shown`
})
function fits(route: Route): boolean {
  if (only.value) return route.signal === only.value || route.targets.includes(only.value)
  return everywhere.value || !elsewhere.value.has(route.id) || route.id === open.value
}
const shown = computed(() => {
  const found = all.value.filter(fits)
  const far = (route: Route): number => moved.value.get(route.id) ?? 0
  return byMotion.value ? found.sort((a, b) => far(b) - far(a)) : found
})
const onlySignal = computed(() => only.value && !only.value.includes('.'))
const onlyName = computed(() =>
  only.value.includes('.')
    ? show.targetName(only.value)
    : (show.signals.get(only.value)?.title ?? 'What is gone'),
)
watch(
  lookedAt,
  (route) => {
    if (!route) return
    openRoute(route)
    lookedAt.value = ''
  },
  { immediate: true },
)

/** The routes of one signal or target alone. */
function showOnly(id: string): void {
  only.value = id
  view.value = 'Routes'
}
function openRoute(id: string): void {
  open.value = id
  view.value = 'Routes'
  only.value = ''
}
function openMade(id: string): void {
  open.value = id
  adding.value = false
}
function toggle(id: string): void {
  open.value = open.value === id ? '' : id
}
const solos = computed(() => all.value.filter((route) => route.solo).length)
</script>

<template>
  <div class="top row">
    <h2>Route</h2>
    <TabRow :value="view" :tabs="VIEWS" label="Views of the routes" @choose="(to) => (view = to)" />
    <TypedRoute v-if="view === 'Routes'" @made="openMade" />
    <span class="grow" />
    <template v-if="view === 'Routes'">
      <button v-if="only" class="button on" @click="only = ''">
        only {{ onlyName }} <i class="pi pi-times" />
      </button>
      <button
        v-tooltip.bottom="'What moves most stands first'"
        class="button"
        :class="{ on: byMotion }"
        :aria-pressed="byMotion"
        @click="byMotion = !byMotion"
      >
        Moving first
      </button>
      <button class="button" :class="{ on: adding }" @click="adding = !adding">
        <i class="pi pi-plus" />New route
      </button>
    </template>
  </div>
  <NewRoute v-if="adding && view === 'Routes'" @made="openMade" @close="adding = false" />
  <div v-if="view === 'Routes'" class="list scroll">
    <p v-if="solos" class="soft">
      {{ solos === 1 ? 'One route is solo' : `${solos} routes are solo` }}: the others wait.
    </p>
    <RestingSignal v-if="onlySignal" :signal="only" :name="onlyName" />
    <RouteSentence
      v-for="route in shown"
      :key="route.id"
      :route="route"
      :open="open === route.id"
      :moved="moved.get(route.id) ?? 0"
      @toggle="toggle(route.id)"
    />
    <p v-if="!all.length" class="card soft">
      Nothing moves by itself yet. Type “kick ring radius” above, or carry a signal from Hear's spine onto a
      parameter.
    </p>
    <p v-else-if="only && !shown.length" class="card soft">No route of {{ onlyName }} yet.</p>
    <button
      v-if="elsewhere.size && !only"
      class="button plain elsewhere"
      :aria-pressed="everywhere"
      @click="everywhere = !everywhere"
    >
      {{ elsewhereSays }}
    </button>
  </div>
  <ModulatorsView v-else-if="view === 'Modulators'" @routes="showOnly" />
  <MapView v-else-if="view === 'Map'" @open="openRoute" />
  <KeptView v-else />
</template>

<style scoped>
.top {
  flex-wrap: wrap;
  min-height: 40px;
  margin-bottom: 8px;
}
.list {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 7px;
  padding-right: 4px;
}
.list > * {
  flex: none;
}
.elsewhere {
  align-self: flex-start;
}
.list > p {
  margin: 0;
}
</style>
