<script setup lang="ts">
// One parameter: its name, what moves it, and the control that its type has.
import { computed, nextTick, ref } from 'vue'
import { useLive } from '../live/useLive'
import { carried, pickParameter } from './carry'
import { CONTROLS } from './parameters'
import NumberReading from './parameters/NumberReading.vue'
import { useNumber } from './parameters/useNumber'
import { nextNumber } from './nextNumber'
import Socket from './Socket.vue'
import TypedNumber from './TypedNumber.vue'
import type { ControlEmits, ControlProps } from './parameters/parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const moved = computed(() => (props.modulators?.length ?? 0) > 0)
const { held, release } = useLive(() => props.target)
const movable = computed(() => props.index !== undefined && !!props.target)
/** What was typed to begin with, while a number is being typed. */
const typing = ref<string | null>(null)
const box = ref<HTMLElement>()
const { shown, hand, low, high } = useNumber(props)
const take = (value: number): void => emit('change', Math.min(high.value, Math.max(low.value, value)), '')
async function goOn(back: boolean): Promise<void> {
  await nextTick()
  nextNumber(box.value, back)
}
function pickUp(event: PointerEvent): void {
  if (movable.value) pickParameter(event, props.target!)
}
const under = computed(() => movable.value && carried.value?.over === props.target)
</script>

<template>
  <div
    ref="box"
    class="control"
    :class="{ under, held }"
    :data-parameter="parameter.name"
    :data-target="movable ? target : undefined"
  >
    <div class="head">
      <span v-tooltip.top="parameter.help" class="name" :class="{ carries: movable }" @pointerdown="pickUp">{{
        parameter.title
      }}</span>
      <Socket v-if="movable" :target="target!" :title="parameter.title" />
      <button v-if="held" class="chip back" @click="release">held · give back</button>
      <span class="grow" />
      <TypedNumber
        v-if="typing !== null"
        :from="shown(hand)"
        :unit="parameter.unit ?? ''"
        :label="`${parameter.title}, typed`"
        :first="typing"
        @take="take"
        @leave="typing = null"
        @next="goOn"
      />
      <NumberReading
        v-else-if="parameter.type === 'number'"
        v-bind="props"
        :moved="moved"
        @type="typing = ''"
      />
      <span v-else-if="parameter.type === 'colour'" class="num soft">{{ value }}</span>
    </div>
    <component
      :is="CONTROLS[parameter.type]"
      v-bind="props"
      @change="(to: typeof value, gesture: string) => emit('change', to, gesture)"
      @type="(first: string) => (typing = first)"
    />
  </div>
</template>

<style scoped>
.control {
  min-width: 0;
}
.control > .choice {
  width: 100%;
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
.carries {
  cursor: grab;
  touch-action: none;
}
.control.under {
  outline: 2px solid var(--bolt);
  outline-offset: 2px;
  border-radius: 6px;
}
.control.held :deep(.handle) {
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
.back {
  color: var(--bolt);
  border-color: var(--bolt);
  cursor: pointer;
}
</style>
