<script setup lang="ts">
// The picture of an output's page. What is behind a black ground need not be mixed in, which costs much.
import { computed, ref, watch } from 'vue'
import type { Output } from '../api/api'
import { useDrawing, type Drawing } from '../picture/useDrawing'

const props = defineProps<{ output: Output }>()
const emit = defineEmits<{ measured: [drawing: Drawing]; fault: [words: string]; elsewhere: [] }>()
const canvas = ref<HTMLCanvasElement>()
const { fault, drawnElsewhere } = useDrawing(canvas, {
  size: () => [props.output.width ?? 1280, props.output.height ?? 720],
  first: 960,
  oneIn: () => Math.max(1, Math.round(60 / (props.output.rate ?? 60))),
  alpha: () => props.output.ground === 'transparent',
  guard: true,
  measured: (now) => emit('measured', now),
})
const shape = computed(() => props.output.width! / props.output.height!)
watch(fault, (words) => emit('fault', words))
watch(drawnElsewhere, () => emit('elsewhere'))
const style = computed(() => ({
  aspectRatio: String(shape.value),
  width: `min(100vw, ${100 * shape.value}vh)`,
}))
</script>

<template>
  <img
    v-if="drawnElsewhere"
    :src="`/api/v1/outputs/${output.id}/live`"
    :style="style"
    alt="The picture of this output, drawn in Python"
  />
  <canvas v-show="!drawnElsewhere" ref="canvas" :style="style" aria-label="The picture of this output" />
</template>

<style scoped>
canvas,
img {
  display: block;
}
</style>
