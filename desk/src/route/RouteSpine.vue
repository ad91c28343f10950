<script setup lang="ts">
// Which routes move now, the liveliest first: each with a trace of what it gives out.
import { computed, onScopeDispose, shallowRef } from 'vue'
import { pick } from '../controls/carry'
import { state } from '../live/live'
import { useFrames } from '../live/useFrames'
import { useShow } from '../live/show'
import Trace from '../controls/Trace.vue'
import { Block, type Packet } from '../live/wire'

const MOST = 7
const show = useShow()
const order = shallowRef<string[]>([])
/** Those that move something of the shown look, or something that is no picture. */
const seen = computed(() =>
  (show.document?.routes ?? []).filter(
    (route) => !route.targets.every((target) => show.unseen.has(target.split('.')[0]!)),
  ),
)
let last: Packet | null = null
useFrames([Block.telemetry], {
  every: (packet) => {
    last = packet
  },
})
function look(): void {
  const telemetry = last?.blocks.get(Block.telemetry)
  const mine = new Set(seen.value.map((route) => route.id))
  const all = [...show.stages]
    .filter(([id]) => mine.has(id))
    .map(([id, stage]) => ({ id, moved: telemetry?.[stage.index * 3 + 1] ?? 0 }))
  // Few routes stand still where they are; of many, those that move come first.
  const next = (all.length > MOST ? all.sort((a, b) => b.moved - a.moved) : all)
    .slice(0, MOST)
    .map((route) => route.id)
  if (next.join() !== order.value.join()) order.value = next
}
const timer = window.setInterval(look, 1000)
look()
onScopeDispose(() => clearInterval(timer))
const routes = computed(() =>
  (order.value.length ? order.value : seen.value.slice(0, MOST).map((route) => route.id)).flatMap((id) =>
    seen.value.filter((route) => route.id === id),
  ),
)
const ends = (route: { low: number | string; high: number | string }): [number, number] =>
  typeof route.low === 'number' && typeof route.high === 'number'
    ? [Math.min(route.low, route.high), Math.max(route.low, route.high)]
    : [0, 1]
const rest = computed(() => Math.max(0, seen.value.length - routes.value.length))
</script>

<template>
  <div class="all">
    <div
      v-for="route in routes"
      :key="route.id"
      class="route"
      :data-route="route.id"
      :class="{ still: state.why?.[route.id] }"
    >
      <span
        class="grip"
        :data-signal="route.signal"
        :style="{ color: show.colour(route.signal) }"
        @pointerdown="pick($event, route.signal)"
        >{{ show.signals.get(route.signal)?.title ?? 'gone' }}</span
      >
      <small>{{ show.targetName(route.targets[0]!) }}</small>
      <div class="trace">
        <Trace
          v-if="show.stages.get(route.id)"
          :key="show.stages.get(route.id)!.out"
          :block="Block.routes"
          :index="show.stages.get(route.id)!.out"
          :low="ends(route)[0]"
          :high="ends(route)[1] || 1"
          :colour="show.colour(route.signal)"
          label="What comes out"
        />
      </div>
    </div>
    <small v-if="rest" class="soft">and {{ rest }} more</small>
  </div>
</template>

<style scoped>
.all {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 12px;
  overflow: hidden;
  min-height: 0;
}
.route {
  display: flex;
  flex-direction: column;
  line-height: 1.2;
  flex: 1 1 70px;
  min-height: 58px;
  max-height: 240px;
}
.still {
  opacity: 0.5;
}
.grip {
  cursor: grab;
  touch-action: none;
  font-weight: 700;
}
small {
  font-size: 13px;
  margin-bottom: 4px;
}
.trace {
  flex: 1;
  min-height: 24px;
}
</style>
