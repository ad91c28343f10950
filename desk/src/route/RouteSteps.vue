<script setup lang="ts">
// A route's steps in the order in which a value goes through them, each with what comes out of it.
import { computed, ref } from 'vue'
import { api, type Part, type Route } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import { useShow } from '../live/show'
import ChainBar from './ChainBar.vue'
import RouteListening from './RouteListening.vue'
import RouteStep from './RouteStep.vue'
import RouteWay from './RouteWay.vue'

const props = defineProps<{ route: Route; colour: string }>()
const show = useShow()
const path = computed(() => `/routes/${props.route.id}/shapers`)
const shapers = computed(() => props.route.shapers ?? [])
const stage = computed(() => show.stages.get(props.route.id))
const kinds = computed(() =>
  show.kinds
    .filter((kind) => kind.family === 'shaper')
    .map((kind) => ({ value: kind.kind, label: kind.title, help: kind.help?.split(/[.:;]/)[0] })),
)
const fitted = ref('')

function add(kind: string): void {
  let id = kind
  for (let n = 2; shapers.value.some((shaper) => shaper.id === id); n++) id = `${kind}-${n}`
  show.edit({ edit: 'add', path: path.value, item: { id, kind } }, `Add ${kind}`)
}
async function fit(part: Part): Promise<void> {
  try {
    const found = await api.fit(props.route.id, part.id)
    const say = (numbers: number[]): string => numbers.map((n) => n.toFixed(2)).join(' to ')
    const title = show.kindOf(part)?.title
    const now = `fitted to the last ten seconds it is ${say(found.after)}`
    fitted.value = `${title} was ${say(found.before)}; ${now}.`
  } catch (error) {
    show.complain(error)
  }
}
async function takeBack(): Promise<void> {
  await show.step('undo')
  fitted.value = ''
}
</script>

<template>
  <div>
    <RouteWay :route="route" />
    <RouteListening :route="route" :colour="colour" />
    <div class="way">
      <RouteStep
        v-for="(part, i) in shapers"
        :key="part.id"
        :part="part"
        :path="path"
        :colour="colour"
        :position="i"
        :count="shapers.length"
        :index="stage && stage.first + i"
        @fit="fit(part)"
      />
      <p v-if="!shapers.length" class="soft">No steps: what comes in moves it as it is.</p>
    </div>
    <p v-if="fitted" class="row told" role="status">
      {{ fitted }}
      <button class="button" @click="takeBack">Take it back</button>
    </p>
    <div class="row under">
      <ActMenu title="Add a step…" :options="kinds" @choose="add" />
      <ChainBar :route="route" />
    </div>
  </div>
</template>

<style scoped>
.way {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  padding-bottom: 6px;
  scrollbar-width: thin;
}
.under {
  margin-top: 6px;
  flex-wrap: wrap;
}
.told {
  margin: 4px 0;
  font-size: 14px;
  color: var(--bolt);
}
</style>
