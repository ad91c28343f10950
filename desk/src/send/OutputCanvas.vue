<script setup lang="ts">
// The picture of an output's page. What is behind a black ground need not be mixed in, which costs much.
import { computed, ref, watch } from 'vue'
import type { Output } from '../api/api'
import { useDrawing, type Drawing } from '../picture/useDrawing'

const props = defineProps<{ output: Output }>()
const emit = defineEmits<{ measured: [drawing: Drawing]; fault: [words: string] }>()
const canvas = ref<HTMLCanvasElement>()
const { fault } = useDrawing(canvas, {
  size: () => [props.output.width ?? 1280, props.output.height ?? 720],
  first: 960,
  oneIn: () => Math.max(1, Math.round(60 / (props.output.rate ?? 60))),
  alpha: () => props.output.ground === 'transparent',
  measured: (now) => emit('measured', now),
})
watch(fault, (words) => emit('fault', words))
const shape = computed(() => props.output.width! / props.output.height!)
</script>

<template>
  <canvas
    ref="canvas"
    :style="{ aspectRatio: String(shape), width: `min(100vw, ${100 * shape}vh)` }"
    aria-label="The picture of this output"
  />
</template>

<style scoped>
canvas {
  display: block;
}
</style>
