<script setup lang="ts">
// One pad: pressed by a finger, a key or a controller; lit while what it does is so, counting while it waits.
import { computed } from 'vue'
import type { Pad } from '../api/api'
import { learns } from '../controls/learns'
import { act } from '../live/live'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import { actionWords, colourOf, padWords } from './words'

const props = defineProps<{ pad: Pad; editing: boolean; left: string }>()
const emit = defineEmits<{ edit: [] }>()
const show = useShow()
const id = computed(() => props.pad.id)
const state = computed(() => surface.value.pads[props.pad.id] ?? '')
const says = computed(() => (props.pad.actions ?? []).map((action) => actionWords(show, action)).join(', '))
const MODES = { press: '', hold: 'held', switch: 'on/off' } as const
const how = computed(() =>
  [MODES[props.pad.mode ?? 'press'], props.pad.waits === 'no' ? '' : `next ${props.pad.waits}`]
    .filter(Boolean)
    .join(' · '),
)
const by = (event: PointerEvent): string => `finger ${event.pointerId}`
function press(event: PointerEvent): void {
  if (props.editing) {
    emit('edit')
    return
  }
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  act({ event: 'pad-pressed', pad: id.value, strength: 1, by: by(event) })
}
function release(event: PointerEvent): void {
  if (!props.editing) act({ event: 'pad-released', pad: id.value, by: by(event) })
}
function key(event: KeyboardEvent, down: boolean): void {
  if (event.repeat || !['Enter', ' '].includes(event.key)) return
  event.preventDefault()
  event.stopPropagation()
  if (props.editing && down) emit('edit')
  else if (down) act({ event: 'pad-pressed', pad: id.value, strength: 1, by: 'key' })
  else act({ event: 'pad-released', pad: id.value, by: 'key' })
}
const down = (event: KeyboardEvent): void => key(event, true)
const up = (event: KeyboardEvent): void => key(event, false)
</script>

<template>
  <button
    v-tooltip.top="{ value: says, disabled: !editing }"
    class="pad"
    :class="[state, { editing }]"
    :style="{ '--acts': pad.colour || colourOf(pad.actions?.[0]) }"
    :aria-pressed="state === 'on'"
    :aria-label="`Pad ${(pad.at ?? 0) + 1}: ${padWords(show, pad)}`"
    v-bind="learns({ does: 'pad', target: String((pad.at ?? 0) + 1), action: null })"
    @pointerdown="press"
    @pointerup="release"
    @pointercancel="release"
    @keydown="down"
    @keyup="up"
    @contextmenu.prevent
  >
    <strong>{{ padWords(show, pad) }}</strong>
    <small v-if="state === 'waits'" class="num count">{{ left }}</small>
    <small v-else>{{ how }}</small>
  </button>
</template>

<style scoped>
.pad {
  min-height: 58px;
  min-width: 0;
  padding: 4px 8px;
  border-radius: 9px;
  border: 2px solid color-mix(in srgb, var(--acts) 60%, transparent);
  background: color-mix(in srgb, var(--acts) 9%, var(--raised));
  color: var(--text);
  cursor: pointer;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 1px;
  touch-action: none;
  user-select: none;
}
.pad strong {
  font-size: 16px;
  line-height: 1.15;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
}
.pad small {
  font-size: 13px;
  color: var(--soft);
  min-height: 16px;
}
.pad:active {
  transform: scale(0.97);
}
.pad.on {
  background: color-mix(in srgb, var(--acts) 78%, var(--ground));
  color: var(--ground);
  border-color: var(--acts);
}
.pad.on small {
  color: var(--ground);
}
.pad.waits {
  border-style: dashed;
  border-color: var(--bolt);
}
.count {
  color: var(--bolt) !important;
  font-weight: 700;
}
.pad.editing {
  border-style: dotted;
}
</style>
