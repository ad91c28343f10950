<script setup lang="ts">
// The live picture. Adapts its inner size so that it keeps up; never its content.
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { plan } from '../live/live'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { Executor } from './executor'

const props = withDefaults(
  defineProps<{
    largest?: number
    upright?: boolean
    /** Draws one frame in so many: a small one beside other work needs no more. */ oneIn?: number
  }>(),
  { largest: 1280, oneIn: 1 },
)
const emit = defineEmits<{ size: [text: string]; drawn: [perSecond: number] }>()
const canvas = ref<HTMLCanvasElement>()
const fault = ref('')
/** This browser cannot draw it: pictures drawn in Python are shown instead. */
const drawnElsewhere = ref(false)
const SIZES = [1920, 1280, 960, 640, 480, 320]
const PATIENCE_MS = 1500
const LEAST_RATE = 40
let executor: Executor | null = null
let width = Math.min(props.largest, 960)
let since = 0
let drawn = 0
let slow = 0

function choose(next: number): void {
  width = next
  executor?.resize(width, Math.round((width * 9) / 16))
  emit('size', `${width}×${Math.round((width * 9) / 16)}`)
}

onMounted(() => {
  start()
  canvas.value!.addEventListener('webglcontextlost', (event) => {
    event.preventDefault()
    executor?.release()
    executor = null
  })
  canvas.value!.addEventListener('webglcontextrestored', start)
})

function start(): void {
  try {
    try {
      executor = new Executor(canvas.value!)
    } catch {
      drawnElsewhere.value = true
      emit('size', 'drawn in Python')
      return
    }
    choose(width)
    if (plan.value) executor.load(plan.value)
    fault.value = executor.fault
  } catch (error) {
    fault.value = String(error instanceof Error ? error.message : error)
  }
}

watch(plan, (next) => {
  if (!next || !executor) return
  try {
    executor.load(next)
    fault.value = executor.fault
  } catch (error) {
    fault.value = `This look cannot be drawn here: ${error}`
  }
})

let turn = 0
function paint(packet: Packet): void {
  if (turn++ % props.oneIn || !executor?.draw(packet)) return
  drawn++
  const now = performance.now()
  if (now - since < PATIENCE_MS) return
  const rate = (drawn * 1000) / (now - since)
  if (since) {
    emit('drawn', rate)
    // Twice in a row too slow: one size down. A single hiccup changes nothing.
    slow = rate * props.oneIn < LEAST_RATE ? slow + 1 : 0
    const smaller = SIZES.find((size) => size < width)
    if (slow >= 2 && smaller) {
      slow = 0
      choose(smaller)
    }
  }
  since = now
  drawn = 0
}
useFrames(
  () => [
    Block.uniforms,
    Block.picture,
    ...[...(plan.value?.data ?? []), ...(plan.value?.clips ?? [])].map((binding) => binding.block),
  ],
  { paint },
)
onBeforeUnmount(() => executor?.dispose())
</script>

<template>
  <div class="picture" :class="{ upright }">
    <img
      v-if="drawnElsewhere"
      :src="'/api/v1/picture'"
      alt="The live picture, drawn in Python"
      class="elsewhere"
    />
    <canvas v-show="!drawnElsewhere" ref="canvas" aria-label="The live picture" />
    <p v-if="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.picture {
  position: relative;
  background: #000;
  aspect-ratio: 16 / 9;
  overflow: hidden;
  border-radius: 8px;
}
canvas,
.elsewhere {
  width: 100%;
  height: 100%;
  display: block;
}
.upright {
  aspect-ratio: auto;
  flex: 1;
  min-height: 60px;
}
.upright canvas {
  position: absolute;
  object-fit: cover;
}
p {
  position: absolute;
  inset: 0;
  margin: 0;
  padding: 16px;
  color: var(--alarm);
}
</style>
