<script setup lang="ts">
// All signals with their level now, the loudest in sight: choose one, or carry it off onto a parameter.
import { computed, ref } from 'vue'
import { pick } from './carry'
import { useFrames } from '../live/useFrames'
import { useShow } from '../live/show'
import { Block, type Packet } from '../live/wire'

defineProps<{ label: string }>()
const emit = defineEmits<{ choose: [signal: string] }>()
const show = useShow()
const words = ref('')
const bars = new Map<number, HTMLElement>()
const TITLES: Record<string, string> = {
  level: 'Bands',
  hits: 'Hits',
  phase: 'Beat',
  descriptor: 'More that is heard',
  modulator: 'Made',
}
type Signal = ReturnType<typeof show.signals.get> & object
const groups = computed(() => {
  const found = new Map<string, Signal[]>()
  for (const signal of show.signals.values()) {
    if (!signal.title.toLowerCase().includes(words.value.toLowerCase())) continue
    const title = TITLES[signal.kind] ?? signal.kind
    found.set(title, [...(found.get(title) ?? []), signal])
  }
  return [...found]
})
function takeFirst(): void {
  const first = groups.value[0]?.[1][0]
  if (first) emit('choose', first.id)
}
function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.signals)
  if (values)
    for (const [index, bar] of bars) bar.style.transform = `scaleX(${Math.min(1, values[index] ?? 0)})`
}
useFrames([Block.signals], { paint })
</script>

<template>
  <div class="picker">
    <input
      v-model="words"
      class="field"
      :aria-label="label"
      placeholder="Find a signal"
      @keydown.enter.prevent="takeFirst"
    />
    <div class="list scroll">
      <template v-for="[title, signals] in groups" :key="title">
        <small class="soft">{{ title }}</small>
        <button
          v-for="signal in signals"
          :key="signal.id"
          v-tooltip.left="signal.help"
          class="signal"
          :style="{ color: show.colour(signal.id) }"
          :data-signal="signal.id"
          @pointerdown="pick($event, signal.id)"
          @click="emit('choose', signal.id)"
        >
          <span>{{ signal.title }}</span><i class="well"
            ><b
              :ref="
                (element) =>
                  element ? bars.set(signal.index, element as HTMLElement) : bars.delete(signal.index)
              "
          /></i>
        </button>
      </template>
      <p v-if="!groups.length" class="soft">No signal is called that.</p>
    </div>
  </div>
</template>

<style scoped>
.picker {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-height: 0;
}
.list {
  max-height: 230px;
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.field {
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  padding: 0 8px;
}
.signal {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
  background: none;
  border: 1px solid transparent;
  border-radius: 6px;
  text-align: left;
  cursor: grab;
  padding: 0 8px;
  touch-action: none;
  flex: none;
}
.signal:hover {
  border-color: currentColor;
}
.signal span {
  flex: 1;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.well {
  width: 70px;
  height: 8px;
  background: var(--ground);
  border-radius: 3px;
  overflow: hidden;
}
.well b {
  display: block;
  height: 100%;
  background: currentColor;
  transform-origin: left;
  transform: scaleX(0);
}
small {
  margin-top: 4px;
}
</style>
