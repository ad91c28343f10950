<script setup lang="ts">
// An output in small, as its pages draw it: walls, masks and all.
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Output, type Plan } from '../api/api'
import { layout, plan as playing } from '../live/live'
import { useShow } from '../live/show'
import { useDrawing } from '../picture/useDrawing'

const props = defineProps<{ output: Output; largest: number; oneIn: number }>()
const show = useShow()
const canvas = ref<HTMLCanvasElement>()
const plan = shallowRef<Plan | null>(null)
/** What of an output makes its plan another one. */
const shape = computed(() => {
  const { look, input, ground, card, cut, walls, masks, blend } = props.output
  const edges = [blend?.left, blend?.right, blend?.top, blend?.bottom].some(Boolean)
  const grids = walls?.map((wall) => [wall.id, wall.on, wall.grid])
  return JSON.stringify([look, input, ground, card, cut, grids, masks?.map((m) => [m.id, m.on]), edges])
})
let asked = 0
async function load(): Promise<void> {
  const mine = ++asked
  try {
    const found = await api.outputs.plan(props.output.id!)
    if (mine === asked) plan.value = found
  } catch {
    setTimeout(() => mine === asked && void load(), 1000)
  }
}
watch([() => props.output.id, shape, playing, layout], load, { immediate: true })
const size = computed<[number, number]>(() => {
  const { width = 1280, height = 720 } = props.output
  const less = Math.min(1, props.largest / Math.max(width, height))
  return [Math.max(16, Math.round(width * less)), Math.max(16, Math.round(height * less))]
})
const { fault } = useDrawing(canvas, {
  size: () => size.value,
  oneIn: () => props.oneIn,
  alpha: () => true,
  plan,
})
const look = computed(() => show.document?.looks.find((each) => each.id === props.output.look)?.name)
</script>

<template>
  <div
    class="picture"
    :class="{ clear: output.ground === 'transparent' }"
    :style="{ aspectRatio: `${output.width} / ${output.height}` }"
  >
    <canvas ref="canvas" :aria-label="`${output.name}: ${look ?? 'what plays'}`" />
    <p v-if="fault" role="alert">{{ fault }}</p>
    <slot />
  </div>
</template>

<style scoped>
.picture {
  position: relative;
  background: #000;
}
/* What lies behind an overlay is not black: a weave says so. */
.clear {
  background: repeating-linear-gradient(45deg, #1d1928 0 6px, #2d2740 6px 12px);
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
}
p {
  position: absolute;
  inset: 0;
  margin: 0;
  padding: 10px;
  color: var(--alarm);
}
</style>
