<script setup lang="ts">
import { computed, ref } from 'vue'
import { state, useFrames } from '../shared/live'
import { useShow } from '../shared/show'
import { Block, type Packet } from '../shared/wire'
import { encode } from './light'

const show = useShow()
const bulbs = ref<HTMLElement[]>([])
const bars = ref<HTMLElement[]>([])
const lamps = computed(() => show.document?.lamps ?? [])
function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.lamps)
  if (!values) return
  bars.value.forEach((bar, i) => {
    bar.style.transform = `scaleY(${values[i] ?? 0})`
  })
  lamps.value.forEach((_, i) => {
    if (bulbs.value[i])
      bulbs.value[i]!.style.background = `rgb(${[0, 1, 2].map((c) => encode(values[i * 3 + c] ?? 0)).join()})`
  })
}
useFrames([Block.lamps], { paint })
</script>

<template>
  <div v-for="lamp in lamps" :key="lamp.id" class="lamp">
    <div ref="bulbs" class="bulb" />
    <div class="wells">
      <i v-for="c in 3" :key="c" class="well"><b ref="bars" :class="`c${c}`" /></i>
    </div>
    <span>{{ lamp.name }}</span><small class="soft num">{{ lamp.universe }}.{{ lamp.address }}</small>
  </div>
  <small :class="state.lights?.trouble ? 'bad' : 'soft'">{{
    state.lights?.trouble ? 'sACN: trouble' : 'sACN out'
  }}</small>
</template>

<style scoped>
.lamp {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 6px;
  font-size: 14px;
  line-height: 1.2;
  min-height: 0;
}
.wells {
  flex: 1;
  display: flex;
  gap: 6px;
  min-height: 20px;
}
.well {
  flex: 1;
  position: relative;
  background: var(--ground);
  border-radius: 4px;
  overflow: hidden;
}
b {
  position: absolute;
  inset: 0;
  transform-origin: bottom;
  transform: scaleY(0);
}
.c1 {
  background: var(--alarm);
}
.c2 {
  background: var(--moss);
}
.c3 {
  background: var(--ice);
}
.bulb {
  width: 100%;
  aspect-ratio: 1;
  border-radius: 50%;
  border: 2px solid var(--edge);
}
.bad {
  color: var(--alarm);
}
</style>
