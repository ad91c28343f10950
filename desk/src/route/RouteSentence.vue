<script setup lang="ts">
// A route as a sentence between two live traces: what comes in, and what goes out on the parameter's own
// scale. Opened,
// it shows its steps. Out of sight it draws nothing.
import { useElementVisibility } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Part, Route } from '../api/api'
import { carried } from '../controls/carry'
import NumberChip from '../controls/NumberChip.vue'
import { only } from '../controls/panel'
import { useShow } from '../live/show'
import Trace from '../controls/Trace.vue'
import { Block } from '../live/wire'
import FitAgain from './FitAgain.vue'
import RouteEnds from './RouteEnds.vue'
import RouteSteps from './RouteSteps.vue'
import RouteTools from './RouteTools.vue'
import { useEnds } from './useEnds'

const props = defineProps<{ route: Route; open: boolean; moved: number }>()
const emit = defineEmits<{ toggle: [] }>()
const show = useShow()
const card = ref<HTMLElement>()
const seen = useElementVisibility(card, { rootMargin: '120px' })
watch(
  () => props.open,
  (open) => {
    if (open) setTimeout(() => card.value?.scrollIntoView({ block: 'nearest' }), 30)
  },
  { immediate: true },
)
const path = computed(() => `/routes/${props.route.id}`)
const signal = computed(() => show.signals.get(props.route.signal))
const stage = computed(() => show.stages.get(props.route.id))
const { ends } = useEnds(props)
const colour = computed(() => show.colour(props.route.signal))
const shapers = computed(() => props.route.shapers ?? [])
/** The step whose edges are drawn over what comes in: one with both ends before one with a threshold. */
const edged = computed(() => {
  const edges = (part: Part): number => show.kindOf(part)?.edges?.length ?? 0
  return shapers.value.filter((part) => part.on && edges(part)).sort((a, b) => edges(b) - edges(a))[0]
})
const edgeNames = computed(() => (edged.value && show.kindOf(edged.value)?.edges) ?? [])
const bracket = computed<[number, number] | null>(() => {
  const at = edgeNames.value.map((name) => value(edged.value!, name))
  return at.length ? [at[0]!, at.at(-1)!] : null
})
// A quiet signal is shown large enough to see.
const top = computed(() => Math.min(1, Math.max(0.25, ...(bracket.value ?? [1]).map((edge) => edge * 1.3))))
const value = (part: Part, name: string): number => Number((part.values as Record<string, unknown>)[name])

/** A shaper's words, cut where its numbers stand. Those without a say now are left out. */
type Piece = { text: string } | { name: string; number: boolean }
function says(part: Part): Piece[] {
  const kind = show.kindOf(part)
  const here = new Map(
    show.parametersOf(kind, part.values ?? {}).map((parameter) => [parameter.name, parameter]),
  )
  return (kind?.says || part.kind).split(/({\w+})/).flatMap((piece): Piece[] => {
    if (!piece.startsWith('{')) return piece ? [{ text: piece }] : []
    const parameter = here.get(piece.slice(1, -1))
    return parameter ? [{ name: parameter.name, number: parameter.type === 'number' }] : []
  })
}
const about = (part: Part, name: string) =>
  show.kindOf(part)?.parameters.find((parameter) => parameter.name === name)
function told(part: Part, name: string): string {
  const text = String((part.values as Record<string, unknown>)[name])
  return about(part, name)?.type === 'signal' ? (show.signals.get(text)?.title ?? 'nothing') : text
}
const setShaper = (part: Part, name: string, to: number, gesture: string): void =>
  show.set(`${path.value}/shapers/${part.id}/values/${name}`, to, `Route ${part.kind}`, gesture)
function pull(which: 0 | 1, to: number, gesture: string): void {
  const name = edgeNames.value[which] ?? edgeNames.value[0]
  if (edged.value && name) setShaper(edged.value, name, Math.round(to * 1000) / 1000, gesture)
}
const edgeOf = (part: Part, name: string): boolean => show.kindOf(part)?.edges?.includes(name) ?? false
function showOnly(id: string): void {
  only.value = only.value === id ? '' : id
}
</script>

<template>
  <article
    ref="card"
    class="card"
    :class="{ muted: route.muted, open, under: carried?.route === route.id && !carried.over }"
    :data-route="route.id"
    :data-path="path"
  >
    <template v-if="seen || open">
      <div class="trace">
        <Trace
          v-if="signal && stage"
          :key="`${stage.first}-in`"
          :block="Block.routes"
          :index="stage.first"
          :low="0"
          :high="top"
          :colour="colour"
          :bracket="bracket"
          label="What comes in"
          @bracket="pull"
        />
      </div>
      <div class="words">
        <button
          v-tooltip.top="'Show only routes of this signal'"
          class="signal"
          :style="{ color: colour, borderColor: colour }"
          @click="showOnly(route.signal)"
        >
          {{ signal?.title ?? 'What is gone' }}
        </button>
        <template v-for="part in shapers.filter((shaper) => shaper.on)" :key="part.id">
          <template v-for="(piece, i) in says(part)" :key="i">
            <span v-if="'text' in piece">{{ piece.text }}</span>
            <NumberChip
              v-else-if="piece.number"
              :value="value(part, piece.name)"
              :low="about(part, piece.name)!.low!"
              :high="about(part, piece.name)!.high!"
              :label="`${part.kind} ${about(part, piece.name)!.title}`"
              :unit="about(part, piece.name)!.unit"
              :decibels="signal?.kind === 'level' && edgeOf(part, piece.name)"
              @change="(to, gesture) => setShaper(part, piece.name, to, gesture)"
            />
            <b v-else>{{ told(part, piece.name) }}</b>
          </template>
          <FitAgain v-if="show.kindOf(part)?.fits" :route="route" :part="part" />
          <span class="soft">·</span>
        </template>
        <span class="soft">moves</span>
        <button
          v-tooltip.top="'Show only routes to this'"
          class="target"
          @click="showOnly(route.targets[0]!)"
        >
          {{ show.targetName(route.targets[0]!) }}
        </button>
        <span
          v-if="route.targets.length > 1"
          v-tooltip.top="route.targets.slice(1).map(show.targetName).join(', ')"
          class="soft"
          >and {{ route.targets.length - 1 }} more</span
        >
        <RouteEnds :route="route" />
      </div>
      <div class="trace">
        <Trace
          v-if="stage"
          :key="`${stage.out}-out`"
          :block="Block.routes"
          :index="stage.out"
          :low="Math.min(...ends) - (Math.abs(ends[1] - ends[0]) || 1) * 0.08"
          :high="Math.max(...ends) + (Math.abs(ends[1] - ends[0]) || 1) * 0.08"
          :colour="colour"
          label="What comes out"
        />
      </div>
      <RouteTools
        class="tools"
        :route="route"
        :open="open"
        :moved="moved"
        :colour="colour"
        @toggle="emit('toggle')"
      />
      <RouteSteps v-if="open" class="steps" :route="route" :colour="colour" />
    </template>
    <span v-else class="unseen"
      >{{ signal?.title ?? 'What is gone' }} moves {{ show.targetName(route.targets[0]!) }}</span
    >
  </article>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: 124px minmax(0, 1fr) 124px;
  grid-template-rows: minmax(56px, auto) auto;
  gap: 6px 14px;
  padding: 9px 12px;
  min-height: 120px;
}
.card.under {
  outline: 2px solid var(--bolt);
}
.card.open {
  border-color: var(--edge-strong);
}
@container column (max-width: 660px) {
  .card {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .words {
    grid-column: 1 / -1;
    grid-row: 1;
  }
}
.trace {
  height: 100%;
  min-height: 56px;
  max-height: 96px;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
  align-content: center;
}
.signal,
.target {
  font-weight: 700;
  border: 1.5px solid;
  border-radius: 6px;
  padding: 0 9px;
  min-height: 32px;
  background: none;
  cursor: pointer;
}
.target {
  border-color: transparent;
  padding: 0 2px;
  text-decoration: underline;
  text-decoration-color: var(--edge-strong);
  text-underline-offset: 4px;
}
.tools,
.steps {
  grid-column: 1 / -1;
}
.unseen {
  grid-column: 1 / -1;
}
.muted .words,
.muted .trace {
  opacity: 0.5;
}
</style>
