<script setup lang="ts">
// A number with its two values: the lilac handle is the hand value, the filled bar the live value.
import { computed, ref } from 'vue'
import { newGesture } from '../../live/gestures'
import { useLive } from '../../live/useLive'
import { useFrames } from '../../live/useFrames'
import { Block, type Packet } from '../../live/wire'
import { byTab } from '../byTab'
import { openPanel } from '../panel'
import { useDrag } from '../useDrag'
import type { ControlEmits, ControlProps } from './parameter'
import { useNumber } from './useNumber'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits & { type: [first: string] }>()
const { hold, release } = useLive(() => props.target)
const { low, high, hand, share, zero, shown, rounded } = useNumber(props)
const fill = ref<HTMLElement>()
const colour = computed(() => props.modulators?.[0]?.colour ?? 'var(--hand)')
const moved = computed(() => (props.modulators?.length ?? 0) > 0)
const movable = computed(() => props.index !== undefined && !!props.target)
const change = (value: number, gesture: string): void => emit('change', rounded(value), gesture)

function paint(packet: Packet): void {
  const now = packet.blocks.get(Block.live)?.[props.index!]
  if (now === undefined || !fill.value) return
  const to = share(now)
  fill.value.style.left = `${Math.min(zero.value, to) * 100}%`
  fill.value.style.width = `${Math.abs(to - zero.value) * 100}%`
}
if (props.index !== undefined) useFrames([Block.live], { paint })

const { handlers } = useDrag({
  move({ x, gesture }) {
    const to = low.value + x * (high.value - low.value)
    // What moves by itself follows the hand while it is grabbed, and glides back when it is let go; Shift
    // keeps hold.
    if (moved.value) hold(to)
    change(to, gesture)
  },
  end(event) {
    if (moved.value && !event.shiftKey) release()
  },
})

function freeze(event: KeyboardEvent): void {
  if (event.key.toLowerCase() !== 'f' || event.repeat || !movable.value) return
  if (event.type === 'keydown') hold()
  else release()
}
let gesture = ''
let tabbed = false
function focused(): void {
  tabbed = byTab()
}
function key(event: KeyboardEvent): void {
  if (event.key.toLowerCase() === 'w' && movable.value) {
    openPanel(props.target!, event.currentTarget as HTMLElement, true)
    return
  }
  const plain = !event.ctrlKey && !event.metaKey && !event.altKey
  if (plain && (tabbed ? /^[-.,\d(]$/ : /^[-.,(]$/).test(event.key)) {
    event.preventDefault()
    event.stopPropagation()
    emit('type', event.key)
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
</script>

<template>
  <div
    class="bar"
    role="slider"
    tabindex="0"
    :aria-label="parameter.title"
    :aria-valuemin="low"
    :aria-valuemax="high"
    aria-keyshortcuts="F W"
    :aria-valuenow="hand"
    :aria-valuetext="`${shown(hand)} ${parameter.unit}`"
    v-bind="handlers"
    @focus="focused"
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
</template>

<style scoped>
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
</style>
