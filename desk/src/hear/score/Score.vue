<script setup lang="ts">
// The score: eight seconds of sound as a spectrogram with the bands as rails, a lane for each band with its
// hits, and a lane of beats that reaches past "now" to what is predicted.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { layout, state } from '../../live/live'
import { useShow } from '../../live/show'
import { useFrames } from '../../live/useFrames'
import { Block, type Packet } from '../../live/wire'
import { Drawing } from './drawing'
import { History, SECONDS, type Mark } from './history'
import { LABELS, RAILS, useLanes, usePlot } from './lanes'
import Rails from './Rails.vue'

const props = defineProps<{ input: string; chosen: string; finding: boolean }>()
const emit = defineEmits<{ reject: [text: string]; find: [t: number, hz: number]; choose: [band: string] }>()
const show = useShow()
const box = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)
const { rails, lanes } = useLanes(props)
const plot = usePlot(width, height, lanes)
const { lane, scoreHeight, plotWidth, perSecond, rowOf, hzAt } = plot
const TICKS = [50, 100, 200, 500, 1000, 2000, 5000, 10_000]
const NEAR_S = 0.07

const inputIndex = computed(() => layout.value!.inputs.findIndex((input) => input.id === props.input))
const history = new History(
  layout.value!.spectrum.bins,
  layout.value!.frame_rate,
  props.input,
  () => inputIndex.value,
  () => drawing.forget(),
)
const drawing = new Drawing(history, plot, () => show.rules.confident)
function paint(packet: Packet): void {
  if (canvas.value && width.value >= 50) drawing.paint(canvas.value, lanes.value, height.value, packet.time)
}
useFrames([Block.spectrum, Block.signals, Block.hits, Block.beats, Block.status], {
  every: (packet) => history.hear(packet),
  paint,
})

const watched = computed(() => state.value.inputs?.[props.input]?.hits ?? {})
function timeAt(event: MouseEvent): number {
  const { left } = canvas.value!.getBoundingClientRect()
  return history.latest + (event.clientX - left) / perSecond.value - SECONDS
}
/** What a mark says when it is pointed at. */
function says(mark: Mark): string {
  const name = show.signals.get(`hit-${layout.value?.hits[mark.detector]?.id}`)?.name ?? ''
  if (mark.reason === 0) return `${name} caught, strength ${mark.strength.toFixed(2)}`
  const short =
    mark.strength < mark.threshold ? `, ${mark.strength.toFixed(2)} of ${mark.threshold.toFixed(2)}` : ''
  return `${name} not counted: ${layout.value?.reasons[mark.reason]}${short}`
}
// Point at a hollow mark and it says why it was not counted.
function point(event: MouseEvent): void {
  const { top } = canvas.value!.getBoundingClientRect()
  const pointed = lanes.value[Math.floor((event.clientY - top - scoreHeight.value) / lane.value)]
  if (!pointed || !history.written) {
    emit('reject', '')
    return
  }
  const t = timeAt(event)
  const far = (mark: Mark): number => Math.abs(mark.t - t)
  const near = history.marks
    .filter((mark) => far(mark) < NEAR_S && pointed.detectors.some(({ index }) => index === mark.detector))
    .sort((a, b) => far(a) - far(b))[0]
  emit('reject', near ? says(near) : '')
}
function click(event: MouseEvent): void {
  const y = event.clientY - canvas.value!.getBoundingClientRect().top
  if (y < scoreHeight.value && props.finding && history.written) emit('find', timeAt(event), hzAt(y))
  const pointed = lanes.value[Math.floor((y - scoreHeight.value) / lane.value)]
  if (y > scoreHeight.value && pointed) emit('choose', pointed.band.id)
}
</script>

<template>
  <div ref="box" class="score">
    <span
      v-for="hz in TICKS"
      :key="hz"
      class="tick num"
      :style="{ top: `${rowOf(hz)}px`, width: `${LABELS}px` }"
      >{{ hz >= 1000 ? `${hz / 1000}k` : hz }}</span
    >
    <canvas
      ref="canvas"
      :class="{ finding }"
      :style="{ left: `${LABELS}px`, width: `${plotWidth}px` }"
      aria-label="The score: the last eight seconds of sound"
      @mousemove="point"
      @click="click"
    />
    <Rails :rails="rails" :chosen="chosen" :plot="plot" @choose="(band) => emit('choose', band)" />
    <div class="names" :style="{ top: `${scoreHeight}px`, width: `${RAILS - 8}px` }">
      <div v-for="row in lanes" :key="row.band.id" :style="{ height: `${lane}px`, color: row.colour }">
        <strong>{{ row.band.name }}</strong><small
          v-for="detector in row.detectors"
          :key="detector.id"
          :class="{ wrong: watched[detector.id]?.warning }"
          >▼ {{ show.signals.get(`hit-${detector.id}`)?.name }}
          <span v-if="watched[detector.id]?.a_bar != null" class="num"
            >{{ watched[detector.id]!.a_bar }}/bar</span
          ></small
        >
      </div>
      <div class="beat">Beat</div>
    </div>
  </div>
</template>

<style scoped>
.score {
  position: relative;
  flex: 1;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
  border-radius: 6px;
  background: var(--ground);
}
canvas {
  height: 100%;
  position: absolute;
  top: 0;
}
.tick {
  position: absolute;
  left: 0;
  padding-right: 8px;
  text-align: right;
  font-size: 12px;
  line-height: 1;
  transform: translateY(-50%);
  color: var(--soft);
}
.tick::after {
  content: '';
  position: absolute;
  right: 0;
  top: 50%;
  width: 4px;
  height: 1px;
  background: currentColor;
}
.names {
  position: absolute;
  right: 0;
  font-size: 14px;
  line-height: 1.25;
  pointer-events: none;
}
.names > div {
  padding: 4px 0 0 4px;
  overflow: hidden;
}
.names small {
  display: block;
  font-size: 13px;
  opacity: 0.9;
  white-space: nowrap;
}
.finding {
  cursor: crosshair;
}
.names .wrong {
  color: var(--alarm);
  opacity: 1;
}
.beat {
  color: var(--bolt);
}
</style>
