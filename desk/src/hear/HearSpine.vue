<script setup lang="ts">
// Each band's level as an upright bar with its hits above: the same truth as the open column, in little.
import { computed, ref } from 'vue'
import { layout } from '../live/live'
import { useFrames } from '../live/useFrames'
import { useShow } from '../live/show'
import { pick } from '../controls/carry'
import { signalColour } from '../tokens'
import { Block, type Packet } from '../live/wire'

const show = useShow()
const bars = ref<HTMLElement[]>([])
const marks = ref<HTMLElement[]>([])
const bands = computed(() =>
  (layout.value?.signals ?? [])
    .map((s, index) => ({ ...s, index }))
    .filter((s) => s.id.startsWith('band-') && s.input === show.input?.id),
)
const hits = computed(() =>
  (layout.value?.signals ?? [])
    .map((s, index) => ({ ...s, index }))
    .filter((s) => s.id.startsWith('hit-') && s.input === show.input?.id),
)
const glow: number[] = []

function every(packet: Packet): void {
  const values = packet.blocks.get(Block.signals)
  if (values)
    hits.value.forEach((hit, i) => {
      glow[i] = Math.max((glow[i] ?? 0) * 0.88, values[hit.index]!)
    })
}
function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.signals)
  if (!values) return
  bands.value.forEach((band, i) => {
    if (bars.value[i]) bars.value[i]!.style.transform = `scaleY(${Math.sqrt(values[band.index]!)})`
  })
  marks.value.forEach((mark, i) => {
    mark.style.opacity = String(0.15 + 0.85 * Math.min(1, glow[i] ?? 0))
  })
}
useFrames([Block.signals], { every, paint })
</script>

<template>
  <div class="bands">
    <div
      v-for="band in bands"
      :key="band.id"
      class="band"
      :data-signal="band.id"
      @pointerdown="pick($event, band.id)"
    >
      <div class="well"><div ref="bars" class="bar" :style="{ background: signalColour(band) }" /></div>
      <small>{{ band.name }}</small>
    </div>
  </div>
  <div
    v-for="hit in hits"
    :key="hit.id"
    class="hit"
    :data-signal="hit.id"
    @pointerdown="pick($event, hit.id)"
  >
    <span ref="marks" class="mark" :style="{ background: signalColour(hit) }" />{{ hit.name }}
  </div>
</template>

<style scoped>
.bands {
  flex: 1;
  display: flex;
  gap: 4px;
  min-height: 0;
}
.band,
.hit {
  touch-action: none;
  cursor: grab;
}
.band {
  flex: 1;
  display: flex;
  flex-direction: column;
  text-align: center;
  min-width: 0;
}
.well {
  flex: 1;
  background: var(--ground);
  border-radius: 4px;
  position: relative;
  overflow: hidden;
}
.bar {
  position: absolute;
  inset: 0;
  transform-origin: bottom;
  transform: scaleY(0);
}
small {
  font-size: 12px;
  letter-spacing: -0.03em;
  white-space: nowrap;
}
.hit {
  display: flex;
  align-items: center;
  gap: 7px;
  font-size: 14px;
}
.mark {
  width: 12px;
  height: 12px;
  transform: rotate(45deg);
  border-radius: 2px;
  opacity: 0.15;
}
</style>
