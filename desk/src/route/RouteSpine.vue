<script setup lang="ts">
// Which routes move now: each with the bar of what it gives out.
import { computed, ref } from 'vue'
import { state, useFrames } from '../shared/live'
import { useShow } from '../shared/show'
import { signalColour } from '../shared/tokens'
import { Block, type Packet } from '../shared/wire'

const show = useShow()
const bars = ref<HTMLElement[]>([])
const routes = computed(() => (show.document?.routes ?? []).map((route) => ({ ...route, signalInfo: show.signals.get(route.signal) })))

function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.routes)
  if (!values) return
  routes.value.forEach((route, i) => {
    const part = (values[i * 2 + 1]! - route.low) / (route.high - route.low || 1)
    if (bars.value[i]) bars.value[i]!.style.transform = `scaleX(${Math.min(1, Math.max(0, part))})`
  })
}
useFrames([Block.routes], { paint })
</script>

<template>
  <div class="all">
    <div v-for="route in routes" :key="route.id" class="route" :class="{ still: state.why?.[route.id] }">
      <span :style="{ color: signalColour(route.signalInfo?.pitch) }">{{ route.signalInfo?.name ?? 'gone' }}</span>
      <small>{{ show.targetName(route.target) }}</small>
      <div class="well"><div ref="bars" class="bar" :style="{ background: signalColour(route.signalInfo?.pitch) }" /></div>
    </div>
  </div>
</template>

<style scoped>
.all { flex: 1; display: flex; flex-direction: column; gap: 12px; overflow: hidden }
.route { display: flex; flex-direction: column; line-height: 1.2 } .still { opacity: .5 }
span { font-weight: 700 } small { font-size: 13px; margin-bottom: 4px }
.well { height: 9px; background: var(--ground); border-radius: 3px; overflow: hidden } .bar { height: 100%; transform-origin: left; transform: scaleX(0) }
</style>
