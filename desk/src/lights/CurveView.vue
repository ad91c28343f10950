<script setup lang="ts">
// How lamps answer, drawn, and where they are on it now.
import { computed, ref, watch } from 'vue'
import { api, type Lamp, type Part } from '../api/api'
import PartControls from '../controls/PartControls.vue'
import { useShow } from '../live/show'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'

const props = defineProps<{ part: Part; path: string; lamps: Lamp[] }>()
const WIDE = 240
const HIGH = 90
const show = useShow()
const samples = ref<number[]>([0, 1])
watch(
  () => props.part,
  async (part) => {
    samples.value = await api.lamps.curve(part).catch(() => samples.value)
  },
  { immediate: true },
)
const line = computed(() =>
  samples.value.map((y, i) => `${(i / (samples.value.length - 1)) * WIDE},${HIGH - y * HIGH}`).join(' '),
)
const levels = computed(() =>
  props.lamps.flatMap((lamp) => show.indices.get(`${lamp.fixture.id}.level`)?.index ?? []).slice(0, 24),
)
const dots = ref<SVGCircleElement[]>([])
function paint(packet: Packet): void {
  const live = packet.blocks.get(Block.live)
  if (!live) return
  const last = samples.value.length - 1
  levels.value.forEach((index, i) => {
    const x = Math.min(1, Math.max(0, live[index] ?? 0))
    const left = Math.min(last - 1, Math.floor(x * last))
    const y = samples.value[left]! + (samples.value[left + 1]! - samples.value[left]!) * (x * last - left)
    dots.value[i]?.setAttribute('cx', String(x * WIDE))
    dots.value[i]?.setAttribute('cy', String(HIGH - y * HIGH))
  })
}
useFrames([Block.live], { paint })
</script>

<template>
  <svg :viewBox="`-4 -4 ${WIDE + 8} ${HIGH + 8}`" class="curve" role="img" aria-label="How it answers">
    <rect x="0" y="0" :width="WIDE" :height="HIGH" />
    <polyline :points="line" />
    <circle v-for="(_, i) in levels" :key="i" ref="dots" r="4" cx="0" :cy="HIGH" />
  </svg>
  <PartControls :part="part" :path="path" :columns="1" />
</template>

<style scoped>
.curve {
  width: 100%;
}
rect {
  fill: var(--ground);
  stroke: var(--edge);
}
polyline {
  fill: none;
  stroke: var(--hand);
  stroke-width: 2;
}
circle {
  fill: var(--bolt);
}
</style>
