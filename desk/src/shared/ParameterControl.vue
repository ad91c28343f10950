<script setup lang="ts">
// One parameter with its two values: the lilac handle is the hand value, the filled bar the live value.
import { computed, ref } from 'vue'
import type { Parameter } from './api'
import { digits } from './format'
import { useFrames } from './live'
import { newGesture } from './show'
import { Block, type Packet } from './wire'

const props = defineProps<{
  parameter: Parameter
  value: number | string | boolean
  /** Place in the live block; none when nothing can move it. */
  index?: number
  movers?: { name: string; colour: string; why: string }[]
}>()
const emit = defineEmits<{ change: [value: number | string | boolean, gesture: string] }>()

const bar = ref<HTMLElement>()
const fill = ref<HTMLElement>()
const reading = ref<HTMLElement>()
const low = computed(() => props.parameter.low ?? 0)
const high = computed(() => props.parameter.high ?? 1)
const hand = computed(() => (typeof props.value === 'number' ? props.value : 0))
const share = (value: number): number => Math.min(1, Math.max(0, (value - low.value) / (high.value - low.value)))
const moved = computed(() => (props.movers?.length ?? 0) > 0)
const colour = computed(() => props.movers?.[0]?.colour ?? 'var(--hand)')
const shown = (value: number): string => digits(value, low.value, high.value)
// Bars grow from zero where the range has one, so that left and right of rest look different.
const zero = computed(() => (low.value < 0 && high.value > 0 ? share(0) : 0))

if (props.parameter.type === 'number' && props.index !== undefined) useFrames([Block.live], { paint })

function paint(packet: Packet): void {
  const live = packet.blocks.get(Block.live)
  if (!live || !fill.value || !reading.value) return
  const value = live[props.index!]!
  const to = share(value)
  fill.value.style.left = `${Math.min(zero.value, to) * 100}%`
  fill.value.style.width = `${Math.abs(to - zero.value) * 100}%`
  const text = shown(value)
  if (reading.value.textContent !== text) reading.value.textContent = text
}

let gesture = ''
function drag(event: PointerEvent): void {
  if (event.type === 'pointerdown') { bar.value!.setPointerCapture(event.pointerId); gesture = newGesture() }
  if (!bar.value!.hasPointerCapture(event.pointerId)) return
  const box = bar.value!.getBoundingClientRect()
  change(low.value + Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * (high.value - low.value), gesture)
}
function key(event: KeyboardEvent): void {
  const step = (high.value - low.value) / (event.shiftKey ? 10 : 100)
  const to = { ArrowRight: hand.value + step, ArrowUp: hand.value + step, ArrowLeft: hand.value - step, ArrowDown: hand.value - step, Home: low.value, End: high.value, Backspace: props.parameter.default as number }[event.key]
  if (to === undefined) return
  event.preventDefault()
  if (!event.repeat) gesture = newGesture()
  change(Math.min(high.value, Math.max(low.value, to)), gesture)
}
function change(value: number, name: string): void {
  const step = 10 ** -(shown(1).split('.')[1]?.length ?? 0) / 10
  emit('change', Number((Math.round(value / step) * step).toFixed(6)), name)
}
</script>

<template>
  <div class="control" :data-parameter="parameter.name">
    <div class="head">
      <span class="name" v-tooltip.top="parameter.help">{{ parameter.title }}</span>
      <span v-for="mover in movers" :key="mover.name" class="chip" :class="{ still: mover.why }" :style="{ color: mover.colour, borderColor: mover.colour }" v-tooltip.top="mover.why || `${mover.name} moves this`">{{ mover.name }}</span>
      <span class="grow" />
      <template v-if="parameter.type === 'number'">
        <span v-if="moved" class="num hand" v-tooltip.top="'Hand value'">{{ shown(hand) }}</span>
        <span v-if="moved" class="soft">→</span>
        <span ref="reading" class="num live">{{ shown(hand) }}</span><span class="num soft unit">{{ parameter.unit }}</span>
      </template>
      <span v-else-if="parameter.type === 'colour'" class="num soft">{{ value }}</span>
    </div>
    <div
      v-if="parameter.type === 'number'" ref="bar" class="bar" role="slider" tabindex="0" :aria-label="parameter.title" :aria-valuemin="low" :aria-valuemax="high"
      :aria-valuenow="hand" :aria-valuetext="`${shown(hand)} ${parameter.unit}`" @pointerdown="drag" @pointermove="drag" @keydown="key" @dblclick="change(parameter.default as number, '')"
    >
      <div class="groove"><div ref="fill" class="fill" :style="{ background: colour, left: `${Math.min(zero, share(hand)) * 100}%`, width: `${Math.abs(share(hand) - zero) * 100}%` }" /></div>
      <div class="handle" :style="{ left: `${share(hand) * 100}%` }" />
    </div>
    <label v-else-if="parameter.type === 'colour'" class="swatch" :style="{ background: String(value) }">
      <input type="color" :value="value" :aria-label="parameter.title" @input="emit('change', ($event.target as HTMLInputElement).value, 'colour-' + parameter.name)" />
    </label>
    <select v-else-if="parameter.type === 'choice'" :value="value" :aria-label="parameter.title" class="button" @change="emit('change', ($event.target as HTMLSelectElement).value, '')">
      <option v-for="choice in parameter.choices" :key="choice">{{ choice }}</option>
    </select>
    <button v-else class="button" :class="{ on: value }" @click="emit('change', !value, '')">{{ value ? 'On' : 'Off' }}</button>
  </div>
</template>

<style scoped>
.control { min-width: 0 }
.head { display: flex; align-items: baseline; gap: 6px; height: 22px; white-space: nowrap; overflow: hidden }
.name { overflow: hidden; text-overflow: ellipsis }
.chip { font-size: 12px; border: 1px solid; border-radius: 5px; padding: 0 6px; line-height: 17px }
.chip.still { border-style: dashed }
.hand { color: var(--hand); font-size: 13px }
.live { font-size: 14px }
.unit { font-size: 12px; min-width: 1ch }
.bar { position: relative; height: 32px; cursor: ew-resize; touch-action: none; border-radius: 6px }
.groove { position: absolute; inset: 7px 0; background: var(--ground); border: 1px solid var(--edge); border-radius: 4px; overflow: hidden }
.fill { position: absolute; top: 0; bottom: 0; opacity: .6 }
.handle { position: absolute; top: 2px; bottom: 2px; width: 4px; margin-left: -2px; border-radius: 2px; background: var(--hand); box-shadow: 0 0 0 1px var(--ground) }
.swatch { display: block; height: 26px; margin: 3px 0; border-radius: 5px; border: 1px solid var(--edge-strong); cursor: pointer }
.swatch input { opacity: 0; width: 100%; height: 100%; cursor: pointer }
</style>
