<script setup lang="ts">
// A chase as it runs: the lamps of its first group in a row, in the light that they give now.
import { computed, onMounted, ref } from 'vue'
import type { Chase } from '../api/api'
import { useShow } from '../live/show'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { encode, lightOf } from './light'
import { useRig } from './useRig'

const props = defineProps<{ chase: Chase }>()
const WIDE = 88
const HIGH = 22
const show = useShow()
const { hung } = useRig()
const canvas = ref<HTMLCanvasElement>()
let context: CanvasRenderingContext2D | null = null
onMounted(() => (context = canvas.value?.getContext('2d') ?? null))
const cells = computed(() => {
  const byId = new Map(hung.value.map((lamp) => [lamp.id, lamp]))
  const group = show.document?.groups?.find((group) => group.id === props.chase.runs?.[0]?.group)
  const found = (group?.members ?? []).flatMap((id) => {
    const lamp = byId.get(id)
    if (!lamp) return []
    return group?.pixels ? Array.from({ length: lamp.cells }, (_, pixel) => lamp.cell + pixel) : [lamp.cell]
  })
  return found.slice(0, WIDE)
})
function paint(packet: Packet): void {
  const light = packet.blocks.get(Block.lamps) as Float32Array | undefined
  if (!light || !context) return
  context.fillStyle = '#0c0a12'
  context.fillRect(0, 0, WIDE, HIGH)
  const wide = WIDE / Math.max(1, cells.value.length)
  cells.value.forEach((cell, index) => {
    context!.fillStyle = `rgb(${lightOf(light, cell).map(encode).join()})`
    context!.fillRect(index * wide, 0, Math.max(1, wide - (wide > 4 ? 2 : 0)), HIGH)
  })
}
useFrames([Block.lamps], { paint })
</script>

<template><canvas ref="canvas" :width="WIDE" :height="HIGH" /></template>

<style scoped>
canvas {
  border-radius: 4px;
  width: 100%;
  height: 22px;
}
</style>
