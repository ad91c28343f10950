<script setup lang="ts">
// Who moves what, as a picture: signals ranged by pitch on the left, what they move on the right, each route
// a strand that
// is as bright as it moves now.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useFrames } from '../live/useFrames'
import { useShow } from '../live/show'
import { Block, type Packet } from '../live/wire'

const emit = defineEmits<{ open: [route: string] }>()
const show = useShow()
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box)
const pointed = ref('')
const strands = new Map<string, SVGPathElement>()
const routes = computed(() => show.document?.routes ?? [])
const signals = computed(() => {
  const used = new Set(routes.value.map((route) => route.signal))
  return [...show.signals.values()]
    .filter((signal) => used.has(signal.id))
    .sort((a, b) => (b.pitch ?? -1) - (a.pitch ?? -1))
})
const targets = computed(() => [...new Set(routes.value.flatMap((route) => route.targets))])
const y = (i: number, count: number): number =>
  24 + ((i + 0.5) / Math.max(1, count)) * Math.max(0, height.value - 40)
const LEFT = 180
const RIGHT = 230
const lines = computed(() =>
  routes.value.flatMap((route) =>
    route.targets.map((target) => {
      const from = signals.value.findIndex((signal) => signal.id === route.signal)
      const to = targets.value.indexOf(target)
      const [a, b] = [y(from, signals.value.length), y(to, targets.value.length)]
      const [x1, x2] = [LEFT, Math.max(LEFT + 60, width.value - RIGHT)]
      const middle = (x1 + x2) / 2
      return {
        key: `${route.id} ${target}`,
        route: route.id,
        gone: from < 0,
        colour: show.colour(route.signal),
        d: `M${x1} ${a} C${middle} ${a} ${middle} ${b} ${x2} ${b}`,
        muted: route.muted,
      }
    }),
  ),
)
const lit = new Map<string, number>()
const last = new Map<string, number>()
function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.routes)
  if (!values) return
  for (const route of routes.value) {
    const at = show.stages.get(route.id)
    if (!at) continue
    const way =
      typeof route.low === 'number' && typeof route.high === 'number'
        ? Math.abs(route.high - route.low) || 1
        : 1
    const now = values[at.out] ?? 0
    const motion = Math.min(1, (Math.abs(now - (last.get(route.id) ?? now)) / way) * 12)
    last.set(route.id, now)
    const glow = Math.max(motion, (lit.get(route.id) ?? 0) * 0.92)
    lit.set(route.id, glow)
    for (const target of route.targets) {
      const strand = strands.get(`${route.id} ${target}`)
      if (strand) {
        strand.style.opacity = String(0.22 + 0.78 * glow)
        strand.style.strokeWidth = String(1.5 + 3.5 * glow)
      }
    }
  }
}
useFrames([Block.routes], { paint })
const near = (line: { route: string }, id: string): boolean => {
  const route = routes.value.find((route) => route.id === line.route)!
  return route.id === id || route.signal === id || route.targets.includes(id)
}
</script>

<template>
  <div ref="box" class="map" aria-label="Who moves what">
    <svg :width="width" :height="height">
      <path
        v-for="line in lines.filter((line) => !line.gone)"
        :key="line.key"
        :ref="
          (element) => (element ? strands.set(line.key, element as SVGPathElement) : strands.delete(line.key))
        "
        :d="line.d"
        fill="none"
        :stroke="line.colour"
        stroke-linecap="round"
        :stroke-dasharray="line.muted ? '3 7' : undefined"
        :class="{ dim: pointed && !near(line, pointed) }"
        @pointerenter="pointed = line.route"
        @pointerleave="pointed = ''"
        @click="emit('open', line.route)"
      />
    </svg>
    <span
      v-for="(signal, i) in signals"
      :key="signal.id"
      class="end from"
      :style="{
        top: `${y(i, signals.length) - 12}px`,
        width: `${LEFT - 12}px`,
        color: show.colour(signal.id),
      }"
      @pointerenter="pointed = signal.id"
      @pointerleave="pointed = ''"
      >{{ signal.title }}</span
    >
    <span
      v-for="(target, i) in targets"
      :key="target"
      class="end to"
      :class="{ bad: !show.indices.has(target) }"
      :style="{ top: `${y(i, targets.length) - 12}px`, width: `${RIGHT - 12}px` }"
      @pointerenter="pointed = target"
      @pointerleave="pointed = ''"
      >{{ show.targetName(target) }}</span
    >
    <p v-if="!routes.length" class="soft">No strands yet: make a route first.</p>
  </div>
</template>

<style scoped>
.map {
  flex: 1;
  position: relative;
  min-height: 0;
  background: var(--ground);
  border-radius: 8px;
  overflow: hidden;
}
svg {
  position: absolute;
  inset: 0;
}
path {
  opacity: 0.25;
  cursor: pointer;
  transition: none;
}
path.dim {
  opacity: 0.06 !important;
}
.end {
  position: absolute;
  font-weight: 700;
  height: 24px;
  line-height: 24px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.from {
  left: 0;
  text-align: right;
}
.to {
  right: 0;
}
.bad {
  color: var(--alarm);
}
p {
  padding: 20px;
}
</style>
