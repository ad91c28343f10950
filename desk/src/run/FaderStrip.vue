<script setup lang="ts">
// One fader: where its value stands, what it moves, and where a controller's own fader stands that is off it.
import { computed, ref } from 'vue'
import type { Fader } from '../api/api'
import { learns } from '../controls/learns'
import { useDrag } from '../controls/useDrag'
import { act } from '../live/live'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import { useValue } from './useValue'
import { faderWords, pathWords } from './words'

const props = defineProps<{ fader: Fader; editing: boolean }>()
const emit = defineEmits<{ edit: [] }>()
const show = useShow()
const mine = ref<number | null>(null)
const stands = computed(() => mine.value ?? surface.value.faders[props.fader.id] ?? 0)
const value = useValue(() => props.fader.moves?.[0]?.target ?? '')
const says = computed(() => (props.fader.moves ?? []).map((move) => pathWords(show, move.target)).join(', '))
const off = computed(() => {
  const number = String((props.fader.at ?? 0) + 1)
  const mapping = show.document?.mappings?.find(
    ({ id, does, target }) =>
      id! in surface.value.waits && does === 'fader' && [number, props.fader.id].includes(target ?? ''),
  )
  return mapping ? surface.value.waits[mapping.id] : undefined
})
function send(position: number, gesture: string): void {
  mine.value = position
  act({ event: 'fader-moved', fader: props.fader.id, position, gesture })
}
const { handlers } = useDrag(
  {
    start: () => {
      if (props.editing) emit('edit')
    },
    move({ y, gesture }) {
      if (!props.editing) send(1 - y, gesture)
    },
    end: () => {
      mine.value = null
    },
  },
  { x: 0, y: 8 },
)
const KEYS: Record<string, number> = { ArrowUp: 0.02, ArrowRight: 0.02, ArrowDown: -0.02, ArrowLeft: -0.02 }
function nudge(event: KeyboardEvent): void {
  const by = KEYS[event.key]
  const to = { Home: 0, End: 1 }[event.key] ?? (by === undefined ? undefined : stands.value + by)
  if (to === undefined) return
  event.preventDefault()
  send(Math.min(1, Math.max(0, to)), '')
  mine.value = null
}
</script>

<template>
  <div class="strip">
    <div
      class="track"
      role="slider"
      tabindex="0"
      aria-orientation="vertical"
      :aria-label="`Fader ${(fader.at ?? 0) + 1}: ${faderWords(show, fader)}`"
      :aria-valuenow="Math.round(stands * 100)"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-valuetext="value"
      v-bind="{
        ...handlers,
        ...learns({ does: 'fader', target: String((fader.at ?? 0) + 1), action: null }),
      }"
      @keydown="nudge"
    >
      <i class="fill" :style="{ height: `${stands * 100}%` }" />
      <i class="grip" :style="{ bottom: `calc(8px + (100% - 16px) * ${stands})` }" />
      <i v-if="off !== undefined" class="off" :style="{ bottom: `${off * 100}%` }" />
    </div>
    <b class="num">{{ off === undefined ? value : 'off' }}</b>
    <span v-tooltip.top="says" class="name">{{ faderWords(show, fader) }}</span>
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: 52px minmax(0, 1fr);
  grid-template-rows: auto 1fr;
  column-gap: 8px;
  min-width: 0;
  min-height: 0;
}
.track {
  grid-row: 1 / 3;
  position: relative;
  border: 1px solid var(--edge-strong);
  border-radius: 9px;
  background: var(--raised);
  cursor: ns-resize;
  touch-action: none;
  overflow: hidden;
}
.fill {
  position: absolute;
  inset: auto 0 0 0;
  background: color-mix(in srgb, var(--hand) 26%, transparent);
}
.grip {
  position: absolute;
  left: 3px;
  right: 3px;
  height: 10px;
  margin-bottom: -5px;
  border-radius: 4px;
  background: var(--hand);
}
.off {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 3px dashed var(--bolt);
}
b {
  font-size: 17px;
  overflow: hidden;
}
.name {
  font-size: 15px;
  line-height: 1.15;
  overflow: hidden;
  overflow-wrap: anywhere;
}
</style>
