<script setup lang="ts">
// One parameter's panel: who moves it and how they are mixed, why it does not move, what else could move it,
// its presets.
import { useResizeObserver } from '@vueuse/core'
import Popover from 'primevue/popover'
import { computed, nextTick, ref, watch } from 'vue'
import { api, type Reason } from '../api/api'
import { state } from '../live/live'
import { useLive } from '../live/useLive'
import { lookedAt, panel } from './panel'
import Choice from './Choice.vue'
import { valuePath } from '../live/tree'
import LearnFader from './LearnFader.vue'
import MoverRow from './MoverRow.vue'
import { besideOf } from './besideOf'
import PresetList from './PresetList.vue'
import ReasonRow from './ReasonRow.vue'
import { useShow } from '../live/show'
import SignalPicker from './SignalPicker.vue'

const emit = defineEmits<{ open: [column: 'route' | 'hear'] }>()
const show = useShow()
const box = ref<InstanceType<typeof Popover>>()
const target = ref('')
const reasons = ref<Reason[]>([])
const adding = ref(false)
const routes = computed(() =>
  (show.document?.routes ?? []).filter((route) => route.targets.includes(target.value)),
)
const mixes = computed(() => show.rules.mixes.map((mix) => ({ value: mix.how, label: mix.says })))

/** Where its hand value stands, for what a fader can move. */
const path = computed(() => {
  if (target.value.includes('@')) return valuePath(show.document, target.value)
  const entry = show.indices.get(target.value)
  if (!entry || entry.parameter.type !== 'number' || entry.of?.length) return ''
  return valuePath(show.document, target.value)
})
const { held, toggle: toggleHeld } = useLive(target)

async function ask(): Promise<void> {
  if (target.value) reasons.value = await api.why('parameter', target.value).catch(() => [])
}
watch(panel, async (now) => {
  if (!now) {
    box.value?.hide()
    return
  }
  target.value = now.target
  adding.value = false
  await ask()
  adding.value = !now.why && !routes.value.length
  await nextTick()
  box.value?.show({ currentTarget: now.at } as unknown as Event, now.at)
})
watch([() => show.document, () => state.value.overridden], () => {
  if (panel.value) void ask()
})
// It grows when signals are looked for: never past an edge of the screen, nor over what it is about.
const content = ref<HTMLElement>()
useResizeObserver(content, () => {
  const box = content.value?.closest<HTMLElement>('.p-popover')
  if (!box || !panel.value) return
  const { left, top } = besideOf(
    (panel.value.at.closest('.control') ?? panel.value.at).getBoundingClientRect(),
    box.offsetWidth,
    box.offsetHeight,
  )
  box.style.left = `${left}px`
  box.style.top = `${top}px`
})
const join = (signal: string): void => {
  api
    .addRoute(signal, [target.value])
    .then(() => {
      adding.value = false
    })
    .catch(show.complain)
}
function look(route: string): void {
  lookedAt.value = route
  panel.value = null
  emit('open', 'route')
}
function cured(action: string): void {
  if (action === 'hear') {
    panel.value = null
    emit('open', 'hear')
  }
  if (action === 'connect') adding.value = true
  if (action === 'open' && routes.value[0]) look(routes.value[0].id)
  setTimeout(ask, 400)
}
</script>

<template>
  <Popover ref="box" @hide="panel = null">
    <div v-if="target" ref="content" class="all" data-testid="parameter-panel">
      <div class="row">
        <strong>{{ show.targetName(target) }}</strong><span class="grow" />
        <small v-if="target.includes('@')" class="soft">what moves it acts one frame later</small>
        <button class="button" :class="{ on: held }" :aria-pressed="held" @click="toggleHeld">
          {{ held ? 'Give back' : 'Freeze' }}
        </button>
      </div>
      <MoverRow
        v-for="route in routes"
        :key="route.id"
        :route="route"
        :target="target"
        @look="look(route.id)"
      />
      <div v-if="routes.length > 1" class="row">
        Together
        <Choice
          :value="(show.document?.mixes ?? {})[target] ?? 'sum'"
          :options="mixes"
          label="How they act together"
          @choose="(how) => api.mix(target, how).catch(show.complain)"
        />
      </div>
      <div class="why">
        <ReasonRow
          v-for="(reason, i) in reasons"
          :key="i"
          :reason="reason"
          :target="target"
          :route="routes[0]?.id"
          @cured="cured"
        /><span v-if="!reasons.length && routes.length" class="soft">It moves.</span>
      </div>
      <SignalPicker v-if="adding" label="Find a signal to move it" @choose="join" />
      <button v-else class="button" @click="adding = true">
        <i class="pi pi-plus" />Let something{{ routes.length ? ' else' : '' }} move it
      </button>
      <LearnFader v-if="path" :target="path" title="It" />
      <PresetList scope="parameter" :address="target" />
    </div>
  </Popover>
</template>

<style scoped>
.all {
  width: 350px;
  display: flex;
  flex-direction: column;
  gap: 9px;
  max-height: min(620px, calc(100vh - 60px));
  overflow-y: auto;
  scrollbar-width: thin;
}
.by .button {
  min-height: 32px;
}
.by {
  font-size: 14px;
}
.why {
  display: flex;
  flex-direction: column;
  gap: 5px;
  font-size: 14px;
}
</style>
