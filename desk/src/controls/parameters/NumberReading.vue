<script setup lang="ts">
// A number as it is now, and, where something moves it, the hand value that it moves about.
import { ref } from 'vue'
import { useFrames } from '../../live/useFrames'
import { Block, type Packet } from '../../live/wire'
import type { ControlProps } from './parameter'
import { useNumber } from './useNumber'
import { write } from '../../live/write'

const props = defineProps<ControlProps & { moved: boolean }>()
const emit = defineEmits<{ type: [] }>()
const { hand, shown } = useNumber(props)
const reading = ref<HTMLElement>()

function paint(packet: Packet): void {
  // News of a new place may be ahead of the frames that have it.
  const now = packet.blocks.get(Block.live)?.[props.index!]
  if (now === undefined || !reading.value) return
  const text = shown(now)
  write(reading.value, text)
}
if (props.index !== undefined) useFrames([Block.live], { paint })
</script>

<template>
  <button v-tooltip.top="'Type it: units, sums, dB, beats'" class="read" tabindex="-1" @click="emit('type')">
    <span v-if="moved" class="num hand">{{ shown(hand) }}</span>
    <span v-if="moved" class="soft">→</span>
    <span ref="reading" class="num live">{{ shown(hand) }}</span><span class="num soft unit">{{
      parameter.unit
    }}</span>
  </button>
</template>

<style scoped>
.read {
  background: none;
  border: 0;
  padding: 0;
  color: inherit;
  cursor: text;
  display: inline-flex;
  gap: 4px;
  align-items: baseline;
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
</style>
