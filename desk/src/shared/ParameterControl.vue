<script setup lang="ts">
// One parameter with its two values: the lilac handle is the hand value, the filled bar the live value.
import { computed, ref } from 'vue'
import { api, type Parameter } from './api'
import { carried } from './carry'
import { digits } from './format'
import { giveBack, hold, plan, state, useFrames } from './live'
import LineEditor from './LineEditor.vue'
import CameraChooser from './CameraChooser.vue'
import ClipChooser from './ClipChooser.vue'
import CodeEditor from './CodeEditor.vue'
import { openPanel } from './panel'
import { newGesture, useShow } from './show'
import StepEditor from './StepEditor.vue'
import { Block, type Packet } from './wire'

const props = defineProps<{
  parameter: Parameter
  value: number | string | boolean | number[] | [number, number][]
  /** Its address; none for what no route can move. */
  target?: string
  /** Path of its part, for what is not changed by a plain edit. */
  path?: string
  /** Place in the live block; none when nothing can move it. */
  index?: number
  movers?: { name: string; colour: string; why: string }[]
}>()
const emit = defineEmits<{
  change: [value: number | string | boolean | number[] | [number, number][], gesture: string]
}>()
const show = useShow()

const bar = ref<HTMLElement>()
const fill = ref<HTMLElement>()
const reading = ref<HTMLElement>()
const low = computed(() => props.parameter.low ?? 0)
const high = computed(() => props.parameter.high ?? 1)
const hand = computed(() => (typeof props.value === 'number' ? props.value : 0))
const share = (value: number): number =>
  Math.min(1, Math.max(0, (value - low.value) / (high.value - low.value)))
const moved = computed(() => (props.movers?.length ?? 0) > 0)
const held = computed(() => !!props.target && (state.value.held ?? []).includes(props.target))
const movable = computed(() => props.index !== undefined && !!props.target)
const under = computed(() => movable.value && carried.value?.over === props.target)
const taking = ref(false)
function take(event: Event): void {
  const box = event.target as HTMLInputElement
  const file = box.files?.[0]
  box.value = ''
  if (!file) return
  taking.value = true
  api
    .addPicture(file)
    .then(({ id }) => emit('change', id, ''))
    .catch(show.complain)
    .finally(() => {
      taking.value = false
    })
}
/** The layers of the look that this parameter's part belongs to. */
const neighbours = computed(() => {
  const part = props.target?.split('.')[0]
  return (
    show.document?.looks.find(
      (look) =>
        look.finish?.some((one) => one.id === part) ||
        look.layers?.some((layer) =>
          [layer.source, ...(layer.effects ?? []), layer.mix].some((one) => one.id === part),
        ),
    )?.layers ?? []
  )
})
const trouble = computed(() =>
  props.parameter.type === 'words' && props.target
    ? (state.value.mover_troubles?.[props.target.split('.')[0]!] ?? '')
    : '',
)
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
  if (event.type === 'pointerdown') {
    bar.value!.setPointerCapture(event.pointerId)
    gesture = newGesture()
  }
  if (!bar.value!.hasPointerCapture(event.pointerId)) return
  const box = bar.value!.getBoundingClientRect()
  const to =
    low.value + Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * (high.value - low.value)
  // What moves by itself follows the hand while it is grabbed, and glides back when it is let go; Shift keeps hold.
  if (moved.value && props.target) hold(props.target, to)
  change(
    low.value + Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * (high.value - low.value),
    gesture,
  )
}
function letGo(event: PointerEvent): void {
  if (moved.value && props.target && !event.shiftKey) giveBack(props.target)
}
function freeze(event: KeyboardEvent): void {
  if (event.key.toLowerCase() !== 'f' || event.repeat || !movable.value) return
  if (event.type === 'keydown') hold(props.target!)
  else giveBack(props.target!)
}
function key(event: KeyboardEvent): void {
  if (event.key.toLowerCase() === 'w' && movable.value) {
    openPanel(props.target!, event.currentTarget as HTMLElement, true)
    return
  }
  freeze(event)
  const step = (high.value - low.value) / (event.shiftKey ? 10 : 100)
  const to = {
    ArrowRight: hand.value + step,
    ArrowUp: hand.value + step,
    ArrowLeft: hand.value - step,
    ArrowDown: hand.value - step,
    Home: low.value,
    End: high.value,
    Backspace: props.parameter.default as number,
  }[event.key]
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
  <div
    class="control"
    :class="{ under, held }"
    :data-parameter="parameter.name"
    :data-target="movable ? target : undefined"
  >
    <div class="head">
      <span v-tooltip.top="parameter.help" class="name">{{ parameter.title }}</span>
      <button
        v-if="movable"
        v-tooltip.top="moved ? 'What moves this, and why not' : 'Let something move this'"
        class="socket"
        :class="{ moved }"
        :aria-label="`What moves ${parameter.title}`"
        @click="openPanel(target!, $event.currentTarget as HTMLElement)"
      >
        <template v-if="moved"
          ><i
            v-for="mover in movers!.slice(0, 2)"
            :key="mover.name"
            class="chip"
            :class="{ still: mover.why }"
            :style="{ color: mover.colour, borderColor: mover.colour }"
            >{{ mover.name }}</i
          ><i v-if="movers!.length > 2" class="chip">+{{ movers!.length - 2 }}</i></template
        >
        <span v-else class="hole" />
      </button>
      <button v-if="held" class="chip back" @click="giveBack(target!)">held · give back</button>
      <span class="grow" />
      <template v-if="parameter.type === 'number'">
        <span v-if="moved" v-tooltip.top="'Hand value'" class="num hand">{{ shown(hand) }}</span>
        <span v-if="moved" class="soft">→</span>
        <span ref="reading" class="num live">{{ shown(hand) }}</span><span class="num soft unit">{{
          parameter.unit
        }}</span>
      </template>
      <span v-else-if="parameter.type === 'colour'" class="num soft">{{ value }}</span>
    </div>
    <div
      v-if="parameter.type === 'number'"
      ref="bar"
      class="bar"
      role="slider"
      tabindex="0"
      :aria-label="parameter.title"
      :aria-valuemin="low"
      :aria-valuemax="high"
      aria-keyshortcuts="F W"
      :aria-valuenow="hand"
      :aria-valuetext="`${shown(hand)} ${parameter.unit}`"
      @pointerdown="drag"
      @pointermove="drag"
      @pointerup="letGo"
      @keydown="key"
      @keyup="freeze"
      @dblclick="change(parameter.default as number, '')"
    >
      <div class="groove">
        <div
          ref="fill"
          class="fill"
          :style="{
            background: colour,
            left: `${Math.min(zero, share(hand)) * 100}%`,
            width: `${Math.abs(share(hand) - zero) * 100}%`,
          }"
        />
      </div>
      <div class="handle" :style="{ left: `${share(hand) * 100}%` }" />
    </div>
    <label v-else-if="parameter.type === 'colour'" class="swatch" :style="{ background: String(value) }">
      <input
        type="color"
        :value="String(value)"
        :aria-label="parameter.title"
        @input="emit('change', ($event.target as HTMLInputElement).value, 'colour-' + parameter.name)"
      />
    </label>
    <select
      v-else-if="parameter.type === 'choice'"
      :value="value"
      :aria-label="parameter.title"
      class="button choice"
      @change="emit('change', ($event.target as HTMLSelectElement).value, '')"
    >
      <option v-for="choice in parameter.choices" :key="choice">{{ choice }}</option>
    </select>
    <select
      v-else-if="parameter.type === 'signal'"
      :value="value"
      :aria-label="parameter.title"
      class="button choice"
      @change="emit('change', ($event.target as HTMLSelectElement).value, '')"
    >
      <option value="">{{ parameter.help.includes('comes in') ? 'what comes in' : 'nothing' }}</option>
      <option v-for="one in show.signals.values()" :key="one.id" :value="one.id">{{ one.title }}</option>
    </select>
    <template v-else-if="parameter.type === 'layer'">
      <select
        :value="value"
        :aria-label="parameter.title"
        class="button choice"
        @change="emit('change', ($event.target as HTMLSelectElement).value, '')"
      >
        <option value="">no layer</option>
        <option v-for="one in neighbours" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <small v-if="target && plan?.late?.includes(target)" class="soft"
        >That layer is drawn later, so its picture comes one frame late.</small
      >
    </template>
    <div v-else-if="parameter.type === 'picture'" class="row">
      <select
        :value="value"
        :aria-label="parameter.title"
        class="button choice"
        @change="emit('change', ($event.target as HTMLSelectElement).value, '')"
      >
        <option value="">no picture</option>
        <option v-for="one in show.document?.pictures ?? []" :key="one.id" :value="one.id">
          {{ one.name }}
        </option>
      </select>
      <label class="button add"
        >{{ taking ? 'Taking it in …' : 'Add …'
        }}<input
          type="file"
          accept="image/png,image/jpeg,image/webp,image/svg+xml,.svg"
          :disabled="taking"
          aria-label="Add a picture"
          @change="take"
      /></label>
    </div>
    <ClipChooser
      v-else-if="parameter.type === 'clip'"
      :value="String(value)"
      :label="parameter.title"
      @change="(id) => emit('change', id, '')"
    />
    <CameraChooser
      v-else-if="parameter.type === 'camera'"
      :value="String(value)"
      :label="parameter.title"
      @change="(name) => emit('change', name, '')"
    />
    <CodeEditor
      v-else-if="parameter.type === 'code'"
      :code="String(value)"
      :path="path ?? ''"
      :label="parameter.title"
    />
    <LineEditor
      v-else-if="parameter.type === 'points'"
      :points="value as [number, number][]"
      :label="parameter.title"
      @change="(points, gesture) => emit('change', points, gesture)"
    />
    <StepEditor
      v-else-if="parameter.type === 'steps'"
      :steps="value as number[]"
      :label="parameter.title"
      @change="(steps, gesture) => emit('change', steps, gesture)"
    />
    <template v-else-if="parameter.type === 'words'">
      <input
        class="words num"
        :value="String(value)"
        :aria-label="parameter.title"
        :aria-invalid="!!trouble"
        spellcheck="false"
        maxlength="400"
        @change="emit('change', ($event.target as HTMLInputElement).value, '')"
      />
      <small v-if="trouble" class="wrong" role="status">{{ trouble }}</small><small v-else class="soft">{{
        parameter.help
      }}</small>
    </template>
    <button
      v-else
      class="button"
      :class="{ on: value }"
      :aria-pressed="!!value"
      @click="emit('change', !value, '')"
    >
      {{ value ? 'On' : 'Off' }}
    </button>
  </div>
</template>

<style scoped>
.control {
  min-width: 0;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 6px;
  height: 22px;
  white-space: nowrap;
  overflow: hidden;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
}
.control.under {
  outline: 2px solid var(--bolt);
  outline-offset: 2px;
  border-radius: 6px;
}
.control.held .handle {
  box-shadow: 0 0 0 2px var(--bolt);
}
.chip {
  font-size: 12px;
  border: 1px solid;
  border-radius: 5px;
  padding: 0 6px;
  line-height: 17px;
  font-style: normal;
  background: none;
}
.socket {
  background: none;
  border: 0;
  padding: 0 2px;
  min-width: 26px;
  height: 22px;
  display: inline-flex;
  gap: 4px;
  align-items: center;
  cursor: pointer;
  color: inherit;
}
.hole {
  width: 11px;
  height: 11px;
  border-radius: 50%;
  border: 2px solid var(--edge-strong);
}
.socket:hover .hole {
  border-color: var(--bolt);
}
.back {
  color: var(--bolt);
  border-color: var(--bolt);
  cursor: pointer;
}
.words {
  width: 100%;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: var(--text);
  padding: 0 8px;
}
.words[aria-invalid='true'] {
  border-color: var(--alarm);
}
.wrong {
  color: var(--alarm);
}
small {
  font-size: 13px;
}
.chip.still {
  border-style: dashed;
}
.hand {
  color: var(--hand);
  font-size: 13px;
}
.live {
  font-size: 14px;
}
.unit {
  font-size: 12px;
  min-width: 1ch;
}
.bar {
  position: relative;
  height: 32px;
  cursor: ew-resize;
  touch-action: none;
  border-radius: 6px;
}
.groove {
  position: absolute;
  inset: 7px 0;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 4px;
  overflow: hidden;
}
.fill {
  position: absolute;
  top: 0;
  bottom: 0;
  opacity: 0.6;
}
.handle {
  position: absolute;
  top: 2px;
  bottom: 2px;
  width: 4px;
  margin-left: -2px;
  border-radius: 2px;
  background: var(--hand);
  box-shadow: 0 0 0 1px var(--ground);
}
.choice {
  width: 100%;
}
.add {
  position: relative;
  white-space: nowrap;
  flex: none;
}
.add input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.swatch {
  display: block;
  height: 26px;
  margin: 3px 0;
  border-radius: 5px;
  border: 1px solid var(--edge-strong);
  cursor: pointer;
}
.swatch input {
  opacity: 0;
  width: 100%;
  height: 100%;
  cursor: pointer;
}
</style>
