<script setup lang="ts">
// Anything heard moves anything seen. Four views of the same: sentences, movers, a map, what is kept.
import Select from 'primevue/select'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { api, type Reason, type Route } from '../shared/api'
import { useFrames } from '../shared/live'
import { lookedAt, only } from '../shared/panel'
import { useShow } from '../shared/show'
import ReasonRow from '../shared/ReasonRow.vue'
import { Block, type Packet } from '../shared/wire'
import KeptView from './KeptView.vue'
import MapView from './MapView.vue'
import MoversView from './MoversView.vue'
import RouteSentence from './RouteSentence.vue'
import TypedRoute from './TypedRoute.vue'

const show = useShow()
const VIEWS = ['Routes', 'Movers', 'Map', 'Kept'] as const
const view = ref<(typeof VIEWS)[number]>('Routes')
const byMotion = ref(false)
const open = ref('')
const adding = ref(false)
const signal = ref('')
const targets = ref<string[]>([])
const all = computed(() => show.document?.routes ?? [])
const moved = ref(new Map<string, number>())
const signals = computed(() => [...show.signals.values()].map((one) => ({ label: one.title, value: one.id })))
const places = computed(() =>
  [...show.slots.values()].map((slot) => ({ label: show.targetName(slot.target), value: slot.target })),
)
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
const shown = computed(() => {
  const found = only.value
    ? all.value.filter((route) => route.signal === only.value || route.targets.includes(only.value))
    : all.value.filter(
        (route) => everywhere.value || !elsewhere.value.has(route.id) || route.id === open.value,
      )
  return byMotion.value
    ? [...found].sort((a, b) => (moved.value.get(b.id) ?? 0) - (moved.value.get(a.id) ?? 0))
    : found
})
const onlyName = computed(() =>
  only.value.includes('.')
    ? show.targetName(only.value)
    : (show.signals.get(only.value)?.title ?? 'What is gone'),
)
watch(
  lookedAt,
  (route) => {
    if (route) {
      openRoute(route)
      lookedAt.value = ''
    }
  },
  { immediate: true },
)

// How far each moved in its last bar changes once a bar: looked at twice a second, not sixty times.
let last: Packet | null = null
useFrames([Block.facts], {
  every: (packet) => {
    last = packet
  },
})
const timer = window.setInterval(() => {
  const facts = last?.blocks.get(Block.facts)
  if (facts) moved.value = new Map([...show.stages].map(([id, one]) => [id, facts[one.place * 3 + 1] ?? 0]))
}, 500)
onScopeDispose(() => clearInterval(timer))

// A signal that is looked at says why it rests.
const rests = ref<Reason | null>(null)
async function ask(): Promise<void> {
  rests.value =
    only.value && !only.value.includes('.')
      ? ((await api.why('signal', only.value).catch(() => []))[0] ?? null)
      : null
}
watch([only, () => show.document], () => void ask(), { immediate: true })
const asking = window.setInterval(() => {
  if (only.value) void ask()
}, 2000)
onScopeDispose(() => clearInterval(asking))

/** The routes of one signal or target alone. */
function showOnly(one: string): void {
  only.value = one
  view.value = 'Routes'
}
function openRoute(id: string): void {
  open.value = id
  view.value = 'Routes'
  only.value = ''
}

async function add(): Promise<void> {
  try {
    open.value = (await api.addRoute(signal.value, targets.value)).id
    adding.value = false
    signal.value = ''
    targets.value = []
  } catch (error) {
    show.complain(error)
  }
}
const solos = computed(() => all.value.filter((route: Route) => route.solo).length)
</script>

<template>
  <div class="top row">
    <h2>Route</h2>
    <div class="views" role="tablist">
      <button
        v-for="one in VIEWS"
        :key="one"
        class="button"
        role="tab"
        :aria-selected="view === one"
        :class="{ chosen: view === one }"
        @click="view = one"
      >
        {{ one }}
      </button>
    </div>
    <TypedRoute v-if="view === 'Routes'" @made="(id) => (open = id)" />
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
  <form v-if="adding && view === 'Routes'" class="row new" @submit.prevent="add">
    <span>When</span>
    <Select
      v-model="signal"
      :options="signals"
      option-label="label"
      option-value="value"
      placeholder="this sounds"
      filter
      aria-label="Signal"
    />
    <span>it moves</span>
    <Select
      :model-value="targets[0]"
      :options="places"
      option-label="label"
      option-value="value"
      placeholder="this"
      filter
      aria-label="Parameter"
      @update:model-value="(one: string) => (targets = [one, ...targets.slice(1)])"
    />
    <Select
      v-if="targets.length"
      :model-value="null"
      :options="places.filter((one) => !targets.includes(one.value))"
      option-label="label"
      option-value="value"
      placeholder="and, in turn, …"
      filter
      aria-label="One more parameter"
      @update:model-value="(one: string) => targets.push(one)"
    />
    <span v-if="targets.length > 1" class="soft">{{ targets.length }} in turn</span>
    <button class="button on" :disabled="!signal || !targets.length">Add it</button>
    <button type="button" class="button plain" @click="adding = false">Leave it</button>
  </form>
  <div v-if="view === 'Routes'" class="list scroll">
    <p v-if="solos" class="soft">
      {{ solos === 1 ? 'One route is solo' : `${solos} routes are solo` }}: the others wait.
    </p>
    <p v-if="rests" class="row">
      <b :style="{ color: show.colour(only) }">{{ onlyName }}</b><ReasonRow :reason="rests" @cured="ask" />
    </p>
    <RouteSentence
      v-for="route in shown"
      :key="route.id"
      :route="route"
      :open="open === route.id"
      :moved="moved.get(route.id) ?? 0"
      @toggle="open = open === route.id ? '' : route.id"
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
      {{
        everywhere
          ? 'Leave out routes of looks that are not shown'
          : `${elsewhere.size} more ${elsewhere.size === 1 ? 'route belongs' : 'routes belong'} to looks that are not shown`
      }}
    </button>
  </div>
  <MoversView v-else-if="view === 'Movers'" @routes="showOnly" />
  <MapView v-else-if="view === 'Map'" @open="openRoute" />
  <KeptView v-else />
</template>

<style scoped>
.top {
  min-height: 40px;
  margin-bottom: 8px;
}
.new {
  margin-bottom: 8px;
  flex-wrap: wrap;
}
.views {
  display: flex;
}
.views .button {
  border-radius: 0;
  border-right-width: 0;
}
.views .button:first-child {
  border-radius: 7px 0 0 7px;
}
.views .button:last-child {
  border-radius: 0 7px 7px 0;
  border-right-width: 1px;
}
.views .chosen {
  background: var(--ground);
  border-bottom-color: var(--hand);
  color: var(--hand);
}
.new :deep(.p-select) {
  min-width: 150px;
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
