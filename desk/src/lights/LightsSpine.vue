<script setup lang="ts">
import { computed, ref } from 'vue'
import { state, useFrames } from '../shared/live'
import { useShow } from '../shared/show'
import { Block, type Packet } from '../shared/wire'
import { encode } from './light'

const show = useShow()
const bulbs = ref<HTMLElement[]>([])
const lamps = computed(() => show.document?.lamps ?? [])
function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.lamps)
  if (values) lamps.value.forEach((_, i) => { if (bulbs.value[i]) bulbs.value[i]!.style.background = `rgb(${[0, 1, 2].map((c) => encode(values[i * 3 + c] ?? 0)).join()})` })
}
useFrames([Block.lamps], { paint })
</script>

<template>
  <div v-for="lamp in lamps" :key="lamp.id" class="lamp"><div ref="bulbs" class="bulb" /><span>{{ lamp.name }}</span><small class="soft num">{{ lamp.universe }}.{{ lamp.address }}</small></div>
  <span class="grow" />
  <small :class="state.lights?.trouble ? 'bad' : 'soft'">{{ state.lights?.trouble ? 'sACN: trouble' : 'sACN out' }}</small>
</template>

<style scoped>
.lamp { display: flex; flex-direction: column; gap: 5px; font-size: 14px; line-height: 1.2 }
.bulb { width: 100%; aspect-ratio: 1; border-radius: 50%; border: 2px solid var(--edge) }
.grow { flex: 1 } .bad { color: var(--alarm) }
</style>
