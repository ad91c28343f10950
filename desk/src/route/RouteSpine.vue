<script setup lang="ts">
// Which routes move now: each with a trace of what it gives out.
import { computed } from 'vue'
import { state } from '../shared/live'
import { useShow } from '../shared/show'
import { signalColour } from '../shared/tokens'
import Trace from '../shared/Trace.vue'
import { Block } from '../shared/wire'

const show = useShow()
const routes = computed(() => (show.document?.routes ?? []).map((route) => ({ ...route, signalInfo: show.signals.get(route.signal) })))
</script>

<template>
  <div class="all">
    <div v-for="(route, i) in routes" :key="route.id" class="route" :class="{ still: state.why?.[route.id] }">
      <span :style="{ color: signalColour(route.signalInfo?.pitch) }">{{ route.signalInfo?.name ?? 'gone' }}</span>
      <small>{{ show.targetName(route.target) }}</small>
      <div class="trace"><Trace :key="i" :block="Block.routes" :index="i * 2 + 1" :low="Math.min(route.low, route.high)" :high="Math.max(route.low, route.high) || 1" :colour="signalColour(route.signalInfo?.pitch)" label="What comes out" /></div>
    </div>
  </div>
</template>

<style scoped>
.all { flex: 1; display: flex; flex-direction: column; gap: 12px; overflow: hidden; min-height: 0 }
.route { display: flex; flex-direction: column; line-height: 1.2; flex: 1 1 90px; min-height: 70px; max-height: 240px } .still { opacity: .5 }
span { font-weight: 700 } small { font-size: 13px; margin-bottom: 4px }
.trace { flex: 1; min-height: 24px }
</style>
