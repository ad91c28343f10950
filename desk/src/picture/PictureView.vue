<script setup lang="ts">
// The live picture.
import { ref, watch } from 'vue'
import { useCalm } from '../live/calm'
import { useDrawing } from './useDrawing'

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
const FIRST = 960
const { picture: calm } = useCalm()
const { fault, fewer, drawnElsewhere } = useDrawing(canvas, {
  size: () => [props.largest, Math.round((props.largest * 9) / 16)],
  first: FIRST,
  oneIn: () => Math.max(props.oneIn, calm.value),
  measured: ({ perSecond, width, height }) => {
    emit('drawn', perSecond)
    emit('size', `${width}×${height}`)
  },
})
watch(drawnElsewhere, () => emit('size', 'drawn in Python'))
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
    <p v-else-if="fewer" class="fewer" role="status">{{ fewer }}</p>
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
.fewer {
  inset: auto 0 0;
  padding: 4px 10px;
  color: var(--text);
  background: rgb(0 0 0 / 60%);
}
</style>
