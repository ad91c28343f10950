<script setup lang="ts">
// Colours along a group, each from its border to the next; borders are pulled.
import { computed, ref } from 'vue'
import { useDrag } from '../controls/useDrag'

type Laid = { at?: number; colour: string }
const props = defineProps<{ colours: Laid[] }>()
const emit = defineEmits<{ change: [colours: Laid[], gesture: string] }>()
const sorted = computed(() => [...props.colours].sort((a, b) => (a.at ?? 0) - (b.at ?? 0)))
const ground = computed(() => {
  const stops = sorted.value.flatMap((laid, index) => {
    const to = sorted.value[index + 1]?.at ?? 1
    return [`${laid.colour} ${(laid.at ?? 0) * 100}%`, `${laid.colour} ${to * 100}%`]
  })
  return stops.length ? `linear-gradient(to right, ${stops.join()})` : 'none'
})
const held = ref(-1)
const { handlers } = useDrag({
  start({ x }) {
    const far = sorted.value.map((laid) => Math.abs((laid.at ?? 0) - x))
    held.value = far.indexOf(Math.min(...far))
  },
  move({ x, gesture }) {
    if (held.value < 0) return
    const at = Math.round(x * 100) / 100
    emit(
      'change',
      sorted.value.map((laid, index) => (index === held.value ? { ...laid, at } : laid)),
      gesture,
    )
  },
})
function recolour(index: number, colour: string): void {
  emit(
    'change',
    sorted.value.map((laid, i) => (i === index ? { ...laid, colour } : laid)),
    'laid-colour',
  )
}
function add(): void {
  const last = sorted.value.at(-1)
  const at = last ? Math.min(1, (last.at ?? 0) + (1 - (last.at ?? 0)) / 2) : 0
  emit(
    'change',
    [...sorted.value, { at: Math.round(at * 100) / 100, colour: last ? '#ffd800' : '#20d040' }],
    '',
  )
}
</script>

<template>
  <div class="row">
    <strong class="grow">Colours laid on</strong>
    <button class="button" aria-label="Lay on a colour" @click="add"><i class="pi pi-plus" />Colour</button>
  </div>
  <div
    v-if="sorted.length"
    class="bar"
    :style="{ background: ground }"
    v-bind="handlers"
    aria-label="Borders"
  >
    <b v-for="(laid, index) in sorted" :key="index" :style="{ left: `${(laid.at ?? 0) * 100}%` }" />
  </div>
  <div class="row wrap">
    <span v-for="(laid, index) in sorted" :key="index" class="row laid">
      <input
        type="color"
        :value="laid.colour"
        :aria-label="`Colour ${index + 1}`"
        @input="recolour(index, ($event.target as HTMLInputElement).value)"
      />
      <span class="num soft">from {{ Math.round((laid.at ?? 0) * 100) }} %</span>
      <button
        class="tiny"
        :aria-label="`Remove colour ${index + 1}`"
        @click="
          emit(
            'change',
            sorted.filter((_, i) => i !== index),
            '',
          )
        "
      >
        <i class="pi pi-times" />
      </button>
    </span>
    <span v-if="!sorted.length" class="soft">None: lamps keep their own.</span>
  </div>
</template>

<style scoped>
.bar {
  position: relative;
  height: 34px;
  border-radius: 6px;
  border: 1px solid var(--edge-strong);
  cursor: ew-resize;
  touch-action: none;
}
.bar b {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 4px;
  margin-left: -2px;
  border-radius: 2px;
  background: var(--hand);
  box-shadow: 0 0 0 1px var(--ground);
}
.wrap {
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 6px;
}
.laid {
  gap: 5px;
}
input {
  width: 34px;
  height: 32px;
  padding: 0;
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  background: none;
}
.tiny {
  min-width: 28px;
  min-height: 32px;
  background: none;
  border: 0;
  color: var(--soft);
  cursor: pointer;
}
</style>
