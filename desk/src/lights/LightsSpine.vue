<script setup lang="ts">
// Every lamp as a small cell in rig order, in its true colour; and whether the wire is in trouble.
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { state } from '../live/live'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { encode, lightOf } from './light'
import { useRig } from './useRig'

const GAP = 3
const LARGEST = 40
const { hung } = useRig()
const canvas = ref<HTMLCanvasElement>()
const holder = ref<HTMLElement>()
const { width, height } = useElementSize(holder)
let context: CanvasRenderingContext2D | null = null
onMounted(() => (context = canvas.value?.getContext('2d') ?? null))
watch([width, height], () => {
  if (!canvas.value) return
  canvas.value.width = width.value
  canvas.value.height = height.value
})
/** Rows: a lamp is one cell, a bar a row of its own. */
const rows = computed(() => {
  const found: number[][] = []
  let open: number[] = []
  for (const lamp of hung.value) {
    if (lamp.cells > 1) {
      if (open.length) found.push(open)
      open = []
      found.push(Array.from({ length: lamp.cells }, (_, pixel) => lamp.cell + pixel))
    } else {
      open.push(lamp.cell)
      if (open.length === columns.value) {
        found.push(open)
        open = []
      }
    }
  }
  return open.length ? [...found, open] : found
})
const columns = computed(() => {
  if (hung.value.length > 60) return 6
  return hung.value.length > 12 ? 4 : 1
})
function paint(packet: Packet): void {
  const light = packet.blocks.get(Block.lamps) as Float32Array | undefined
  if (!light || !context || !rows.value.length) return
  context.clearRect(0, 0, width.value, height.value)
  const high = Math.min(LARGEST, height.value / rows.value.length)
  rows.value.forEach((row, index) => {
    const bar = row.length > columns.value
    const wide = width.value / (bar ? row.length : columns.value)
    row.forEach((cell, k) => {
      context!.fillStyle = `rgb(${lightOf(light, cell)
        .map((part) => Math.max(22, encode(part)))
        .join()})`
      context!.fillRect(k * wide, index * high, wide - (bar ? 0 : GAP), Math.max(2, high - GAP))
    })
  })
}
useFrames([Block.lamps], { paint })
const outputs = computed(() => Object.values(state.value.lights?.outputs ?? {}))
</script>

<template>
  <div ref="holder" class="strip"><canvas ref="canvas" /></div>
  <small v-if="!hung.length" class="soft">No lamps yet</small>
  <small v-else-if="state.lights?.fault" class="bad">Wire: trouble</small>
  <small v-else class="soft">{{ outputs.length ? 'On the wire' : 'Not sent' }}</small>
</template>

<style scoped>
.strip {
  flex: 1;
  min-height: 0;
  overflow: hidden;
}
.bad {
  color: var(--alarm);
}
</style>
