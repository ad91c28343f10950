<script setup lang="ts">
// One of the great levers: a number under the hand wherever the rest of the desk is.
import { computed } from 'vue'
import { learns } from '../controls/learns'
import { useDrag } from '../controls/useDrag'
import { useShow } from '../live/show'

const props = defineProps<{
  title: string
  says: string
  unit: string
  value: number
  low: number
  high: number
  /** What a drag is as fine as, and what an arrow key adds. */
  step: number
  keyStep: number
  path: string
  name: string
  /** Where a double click brings it. */
  rest?: number
}>()
const show = useShow()
const share = computed(() => (props.value - props.low) / (props.high - props.low))
const set = (value: number, gesture = ''): void =>
  show.set(props.path, Number(value.toFixed(4)), props.name, gesture)
const { handlers } = useDrag({
  move({ x, gesture }) {
    const value = props.low + x * (props.high - props.low)
    set(Math.round(value / props.step) * props.step, gesture)
  },
})
function nudge(event: KeyboardEvent): void {
  const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
  if (!way) return
  event.preventDefault()
  set(Math.min(props.high, Math.max(props.low, props.value + way * props.keyStep)))
}
function toRest(): void {
  if (props.rest !== undefined) set(props.rest)
}
</script>

<template>
  <div
    class="lever"
    role="slider"
    tabindex="0"
    :aria-label="name"
    :aria-valuenow="value"
    :aria-valuemin="low"
    :aria-valuemax="high"
    v-bind="{ ...handlers, ...learns({ does: 'value', target: path, action: null }) }"
    @keydown="nudge"
    @dblclick="toRest"
  >
    <i :style="{ left: `${share * 100}%` }" /><span
      >{{ title }} <b class="num">{{ says }}</b> {{ unit }}</span
    >
  </div>
</template>

<style scoped>
.lever {
  position: relative;
  width: 118px;
  height: 36px;
  border: 1px solid var(--edge);
  border-radius: 7px;
  background: var(--raised);
  display: grid;
  place-items: center;
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
  overflow: hidden;
  font-size: 14px;
}
i {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 4px;
  margin-left: -2px;
  background: var(--hand);
}
span {
  position: relative;
}
</style>
