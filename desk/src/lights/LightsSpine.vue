<script setup lang="ts">
import { computed, ref } from 'vue'
import { useShow } from '../live/show'
import { state } from '../live/live'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { lightOf, encode } from './light'

const COLOURS = 3
const show = useShow()
const bulbs = ref<HTMLElement[]>([])
const bars = ref<HTMLElement[]>([])
const lamps = computed(() => show.document?.lamps ?? [])
function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.lamps) as Float32Array | undefined
  if (!values) return
  bulbs.value.forEach((bulb, i) => {
    const colour = lightOf(values, i)
    bulb.style.background = `rgb(${colour.map(encode).join()})`
    colour.forEach((amount, c) => {
      const bar = bars.value[i * COLOURS + c]
      if (bar) bar.style.transform = `scaleY(${amount})`
    })
  })
}
useFrames([Block.lamps], { paint })
</script>

<template>
  <div v-for="lamp in lamps" :key="lamp.id" class="lamp">
    <div ref="bulbs" class="bulb" />
    <div class="wells">
      <i v-for="c in COLOURS" :key="c" class="well"><b ref="bars" :class="`c${c}`" /></i>
    </div>
    <span>{{ lamp.name }}</span><small class="soft num">{{ lamp.universe }}.{{ lamp.address }}</small>
  </div>
  <small :class="state.lights?.fault ? 'bad' : 'soft'">{{
    state.lights?.fault ? 'sACN: trouble' : 'sACN out'
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
