<script setup lang="ts">
// The score: eight seconds of sound as a spectrogram with the bands as rails, a lane for each band with its
// hits, and a lane of beats that reaches past "now" to what is predicted.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Band } from '../shared/api'
import { hertz } from '../shared/format'
import { layout, state, statusOf, useFrames } from '../shared/live'
import { Roll } from '../shared/roll'
import { newGesture, useShow } from '../shared/show'
import { pitchRgb, signalColour, tokens } from '../shared/tokens'
import { Block, Status, type Packet } from '../shared/wire'

const props = defineProps<{ input: string; chosen: string; finding: boolean }>()
const emit = defineEmits<{ reject: [text: string]; find: [t: number, hz: number]; choose: [band: string] }>()
const show = useShow()
const box = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)

// The column shows the score only once the layout is there.
const scale = computed(() => layout.value!.spectrum)
const ROWS = scale.value.bins
const RATE = layout.value!.frame_rate
const SECONDS = 8
const place = computed(() => layout.value!.inputs.findIndex((one) => one.id === props.input))
const COLUMNS = SECONDS * RATE
const AHEAD_S = 0.8
const LABELS = 46
const LEAST_SHOWN = 1.06 // a rail too flat to grip is no use
const RAILS = 108
const BEATS = 46

interface Mark {
  detector: number
  reason: number
  t: number
  strength: number
  threshold: number
}
let marks: Mark[] = []
let beats: { t: number; position: number }[] = []
// The history, a ring of columns: what a roll of another size or of other lanes is inked from anew.
const times = new Float64Array(COLUMNS)
const spectra = new Uint8Array(COLUMNS * ROWS)
let levels = new Float32Array(0)
let stride = 0
let written = 0
let last = 0
let status: Float32Array | null = null

function every(packet: Packet): void {
  const all = packet.blocks.get(Block.spectrum) as Uint8Array | undefined
  const spectrum =
    place.value < 0 || !all || all.length < (place.value + 1) * ROWS
      ? undefined
      : all.subarray(place.value * ROWS, (place.value + 1) * ROWS)
  const signals = packet.blocks.get(Block.signals) as Float32Array | undefined
  if (!spectrum || !signals) return
  if (signals.length !== stride) {
    stride = signals.length
    levels = new Float32Array(COLUMNS * stride)
  }
  // An engine that was started anew counts its time from the beginning: what was seen before has no place any more.
  if (written && packet.time < times[(written - 1) % COLUMNS]!) {
    written = 0
    roll = null
  }
  // A page that is too slow for every frame shows the last one longer: the score stays in step with its marks.
  const missed = last && packet.number > last ? Math.min(COLUMNS, packet.number - last - 1) : 0
  last = packet.number
  for (let i = 0; i <= missed; i++) {
    const at = written % COLUMNS
    spectra.set(spectrum, at * ROWS)
    levels.set(signals, at * stride)
    times[at] = packet.time - (missed - i) / RATE
    written++
  }
  const hits = packet.blocks.get(Block.hits) as Float64Array | undefined
  for (let i = 0; hits && i < hits.length; i += 5)
    marks.push({
      detector: hits[i]!,
      reason: hits[i + 1]!,
      t: hits[i + 2]!,
      strength: hits[i + 3]!,
      threshold: hits[i + 4]!,
    })
  const heard = packet.blocks.get(Block.beats) as Float64Array | undefined
  for (let i = 0; heard && i < heard.length; i += 3)
    if (heard[i + 2] === place.value) beats.push({ t: heard[i]!, position: heard[i + 1]! })
  const oldest = packet.time - SECONDS
  if (marks[0] && (marks[0].t < oldest || marks[0].t > packet.time + 1))
    marks = marks.filter((mark) => mark.t >= oldest && mark.t <= packet.time + 1)
  if (beats[0] && (beats[0].t < oldest || beats[0].t > packet.time + 2))
    beats = beats.filter((beat) => beat.t >= oldest && beat.t <= packet.time + 2)
  status = statusOf(packet, props.input) ?? null
}

const watched = computed(() => state.value.inputs?.[props.input]?.hits ?? {})
const bands = computed(() => (show.document?.bands ?? []).filter((one) => one.input === props.input))
const MOST_LANES = 6
interface Lane {
  band: Band
  index: number
  colour: string
  detectors: { id: string; index: number }[]
}
// Every band has a rail; lanes go to the chosen band and to the first ones, as many as can be read.
const rails = computed<Lane[]>(() =>
  bands.value.map((band) => {
    const signal = show.signals.get(`band-${band.id}`)
    const detectors = (show.document?.hits ?? [])
      .filter((one) => one.band === band.id)
      .map((one) => ({ id: one.id, index: layout.value?.hits.findIndex((hit) => hit.id === one.id) ?? -1 }))
    return { band, index: signal?.index ?? -1, colour: signalColour(signal), detectors }
  }),
)
const lanes = computed(() => {
  if (rails.value.length <= MOST_LANES) return rails.value
  const wanted = [...rails.value]
    .sort(
      (a, b) =>
        Number(b.band.id === props.chosen) - Number(a.band.id === props.chosen) ||
        b.detectors.length - a.detectors.length,
    )
    .slice(0, MOST_LANES)
  return rails.value.filter((one) => wanted.includes(one))
})
const lane = computed(() =>
  Math.min(64, Math.max(34, (height.value * 0.42) / Math.max(1, lanes.value.length))),
)
const scoreHeight = computed(() => Math.max(80, height.value - BEATS - lanes.value.length * lane.value))
const plotWidth = computed(() => Math.max(100, width.value - LABELS - RAILS))
const perSecondOf = (): number => plotWidth.value / (SECONDS + AHEAD_S)
const rowOf = (hz: number): number =>
  (1 - Math.log(hz / scale.value.low_hz) / Math.log(scale.value.high_hz / scale.value.low_hz)) *
  scoreHeight.value
const TICKS = [50, 100, 200, 500, 1000, 2000, 5000, 10_000]
const hzAt = (y: number): number =>
  scale.value.low_hz * (scale.value.high_hz / scale.value.low_hz) ** (1 - y / scoreHeight.value)

// -- the roll: spectrogram above, lanes below --------------------------------------------------------------------
let roll: Roll | null = null
let drawnAs = ''
let inked = 0
const strip = new OffscreenCanvas(1, ROWS)
const stripInk = strip.getContext('2d')!
const cells = stripInk.createImageData(1, ROWS)
const colours = Array.from({ length: ROWS }, (_, row) => pitchRgb(row / (ROWS - 1)))

/** Ink what has been heard since the last frame; all that is kept, when the plot or its lanes are others than before. */
function inkRoll(ratio: number): Roll {
  const perSecond = perSecondOf() * ratio
  const as = [
    perSecond,
    ratio,
    scoreHeight.value,
    lane.value,
    stride,
    ...lanes.value.map((one) => `${one.index}${one.colour}`),
  ].join(' ')
  if (!roll || as !== drawnAs) {
    roll = new Roll(
      Math.ceil(SECONDS * perSecond),
      Math.round((scoreHeight.value + lanes.value.length * lane.value) * ratio),
      perSecond,
      tokens.ground,
    )
    drawnAs = as
    inked = 0
  }
  for (inked = Math.max(inked, written - COLUMNS); inked < written; inked++) {
    const at = inked % COLUMNS
    const before = inked > 0 && inked > written - COLUMNS ? (inked - 1) % COLUMNS : at
    roll.add(times[at]!, (x, wide) => inkColumn(roll!.ink, at, before, x, wide, ratio))
  }
  return roll
}

function inkColumn(
  g: OffscreenCanvasRenderingContext2D,
  at: number,
  before: number,
  x: number,
  wide: number,
  ratio: number,
): void {
  for (let row = 0; row < ROWS; row++) {
    // The quiet third stays dark; loud cells run up to white, so that height is never hue alone.
    const level = Math.max(0, (spectra[at * ROWS + row]! / 255 - 0.28) / 0.72)
    const light = level ** 1.7
    const white = Math.max(0, level - 0.75) * 1.6
    const cell = (ROWS - 1 - row) * 4
    for (let c = 0; c < 3; c++)
      cells.data[cell + c] = Math.min(255, colours[row]![c]! * light * 1.15 + 255 * white * light)
    cells.data[cell + 3] = 255
  }
  stripInk.putImageData(cells, 0, 0)
  // The ring still holds what was there eight seconds ago.
  g.fillStyle = tokens.ground
  g.fillRect(x, 0, wide, roll!.height)
  g.drawImage(strip, 0, 0, 1, ROWS, x, 0, wide, scoreHeight.value * ratio)
  lanes.value.forEach((one, i) => {
    const top = (scoreHeight.value + i * lane.value) * ratio
    g.fillStyle = tokens.edge
    g.fillRect(x, Math.round(top), wide, ratio)
    if (one.index < 0) return
    const floor = top + (lane.value - 4) * ratio
    const y = (column: number): number =>
      floor - Math.sqrt(levels[column * stride + one.index]!) * (lane.value - 20) * ratio
    const [from, to] = [y(before), y(at)]
    g.fillStyle = one.colour
    g.globalAlpha = 0.28
    g.fillRect(x, to, wide, floor - to)
    g.globalAlpha = 1
    // The curve itself joins the level before to this one.
    g.fillRect(x, Math.min(from, to) - 0.75 * ratio, wide, Math.abs(from - to) + 1.5 * ratio)
  })
}

function paint(packet: Packet): void {
  const c = canvas.value
  if (!c || width.value < 50) return
  const ratio = Math.min(2, devicePixelRatio)
  const [wide, high] = [Math.round(plotWidth.value * ratio), Math.round(height.value * ratio)]
  if (c.width !== wide || c.height !== high) {
    c.width = wide
    c.height = high
  }
  const g = c.getContext('2d', { alpha: false })!
  g.setTransform(1, 0, 0, 1, 0, 0)
  g.fillStyle = tokens.ground
  g.fillRect(0, 0, wide, high)
  const inkedRoll = inkRoll(ratio)
  const nowX = Math.round(SECONDS * perSecondOf() * ratio)
  inkedRoll.copy(g, nowX)
  g.setTransform(ratio, 0, 0, ratio, 0, 0)
  // Marks stand on the same whole pixels as the roll: they must not tremble against it.
  const xOf = (t: number): number => (nowX + inkedRoll.at(t) - inkedRoll.at(packet.time)) / ratio
  lanes.value.forEach((one, i) => drawMarks(g, one, scoreHeight.value + i * lane.value, nowX / ratio, xOf))
  drawBeats(g, scoreHeight.value + lanes.value.length * lane.value, packet.time, xOf)
  g.fillStyle = tokens.text
  g.fillRect(nowX / ratio, 0, 1.5, height.value)
}

function drawMarks(
  g: CanvasRenderingContext2D,
  one: Lane,
  top: number,
  nowX: number,
  xOf: (t: number) => number,
): void {
  for (const mark of marks) {
    const which = one.detectors.findIndex((detector) => detector.index === mark.detector)
    if (which < 0) continue
    // A second detector in the same lane stands on its own line, so that both can be read.
    const line = top + 4 + which * 9
    const x = xOf(mark.t)
    if (x < 0 || x > nowX) continue
    const size = mark.reason === 0 ? 4 + 3 * mark.strength : 3.5
    g.beginPath()
    g.moveTo(x - size, line)
    g.lineTo(x + size, line)
    g.lineTo(x, line + size * 1.5)
    g.closePath()
    if (mark.reason === 0) {
      g.fillStyle = one.colour
      g.fill()
    } else {
      g.strokeStyle = tokens.edgeStrong
      g.stroke()
    }
  }
}

function drawBeats(g: CanvasRenderingContext2D, top: number, now: number, xOf: (t: number) => number): void {
  const sure = (status?.[Status.confidence] ?? 0) > 0.3
  const bar = (t: number, position: number, coming: boolean): void => {
    const x = xOf(t)
    if (x < 0 || x > plotWidth.value) return
    g.globalAlpha = coming ? 0.5 : sure ? 1 : 0.35
    g.fillStyle = tokens.bolt
    const one = position === 1
    g.fillRect(x - (one ? 2 : 0.75), top + (one ? 6 : 18), one ? 4 : 1.5, BEATS - (one ? 10 : 26))
    g.globalAlpha = 1
  }
  for (const beat of beats) bar(beat.t, beat.position, beat.t > now)
  const last = beats[beats.length - 1]
  if (last && status && sure) {
    const interval = status[Status.interval]!
    for (let n = 1; n < 5; n++)
      bar(last.t + n * interval, ((last.position - 1 + n) % (status[Status.beatsABar] || 4)) + 1, true)
  }
}

useFrames([Block.spectrum, Block.signals, Block.hits, Block.beats, Block.status], { every, paint })

// -- rails: bands on the score's right edge ----------------------------------------------------------------------
let grip: { band: Band; edge: 'low' | 'high' | 'both'; y: number; gesture: string } | null = null
function hold(event: PointerEvent, band: Band, edge: 'low' | 'high' | 'both'): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  event.stopPropagation()
  grip = { band: { ...band }, edge, y: event.clientY, gesture: newGesture() }
}
/** The whole band is taken hold of, and chosen. */
function take(event: PointerEvent, band: Band): void {
  hold(event, band, 'both')
  emit('choose', band.id)
}
function letGo(): void {
  grip = null
}
function drag(event: PointerEvent): void {
  if (!grip) return
  const factor = hzAt(event.clientY - grip.y + scoreHeight.value / 2) / hzAt(scoreHeight.value / 2)
  widen(grip.band, grip.edge, factor, grip.gesture)
}
function widen(band: Band, edge: 'low' | 'high' | 'both', factor: number, gesture: string): void {
  // An end that is pulled stops short of the other; what else a band may be, Python says and its refusal tells.
  const limits = (name: string) => show.kind('band')!.parameters.find((one) => one.name === name)!
  const within = (name: string, hz: number): number =>
    Math.round(Math.min(limits(name).high!, Math.max(limits(name).low!, hz)) * 10) / 10
  let { low_hz: low, high_hz: high } = band
  if (edge !== 'high')
    low = within('low_hz', edge === 'low' ? Math.min(low * factor, high / LEAST_SHOWN) : low * factor)
  if (edge !== 'low')
    high = within('high_hz', edge === 'high' ? Math.max(high * factor, low * LEAST_SHOWN) : high * factor)
  if (high < low * LEAST_SHOWN) return
  const path = `/bands/${band.id}`
  show.edit(
    {
      edit: 'together',
      edits: [
        { edit: 'set', path: `${path}/low_hz`, value: low },
        { edit: 'set', path: `${path}/high_hz`, value: high },
      ],
    },
    `${band.name} band`,
    gesture,
  )
}
function key(event: KeyboardEvent, band: Band): void {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!way) return
  event.preventDefault()
  widen(band, event.shiftKey ? 'high' : 'both', 1.03 ** way, '')
}

// Point at a hollow mark and it says why it was not counted.
function point(event: MouseEvent): void {
  const area = canvas.value!.getBoundingClientRect()
  const one = lanes.value[Math.floor((event.clientY - area.top - scoreHeight.value) / lane.value)]
  if (!one || !written) {
    emit('reject', '')
    return
  }
  const t = timeAt(event)
  const name = (mark: Mark): string =>
    show.signals.get(`hit-${layout.value?.hits[mark.detector]?.id}`)?.name ?? ''
  const near = marks
    .filter(
      (mark) =>
        one.detectors.some((detector) => detector.index === mark.detector) && Math.abs(mark.t - t) < 0.07,
    )
    .sort((a, b) => Math.abs(a.t - t) - Math.abs(b.t - t))[0]
  emit(
    'reject',
    near
      ? `${name(near)} ${near.reason === 0 ? `caught, strength ${near.strength.toFixed(2)}` : `not counted: ${layout.value?.reasons[near.reason]}${near.strength < near.threshold ? `, ${near.strength.toFixed(2)} of ${near.threshold.toFixed(2)}` : ''}`}`
      : '',
  )
}
function timeAt(event: MouseEvent): number {
  return (
    times[(written - 1) % COLUMNS]! +
    (event.clientX - canvas.value!.getBoundingClientRect().left) / perSecondOf() -
    SECONDS
  )
}
function click(event: MouseEvent): void {
  const y = event.clientY - canvas.value!.getBoundingClientRect().top
  if (y < scoreHeight.value && props.finding && written) emit('find', timeAt(event), hzAt(y))
  const one = lanes.value[Math.floor((y - scoreHeight.value) / lane.value)]
  if (y > scoreHeight.value && one) emit('choose', one.band.id)
}

// Rails that overlap stand side by side; one that is alone takes the first place.
const placed = computed(() => {
  const columns: number[][] = []
  const at = new Map<string, number>()
  for (const one of [...rails.value].sort((a, b) => a.band.low_hz! - b.band.low_hz!)) {
    const [low, high] = [one.band.low_hz! / 1.02, one.band.high_hz! * 1.02]
    let column = columns.findIndex((taken) => taken.every((end) => low >= end))
    if (column < 0) {
      column = columns.length
      columns.push([])
    }
    columns[column]!.push(high)
    at.set(one.band.id, column)
  }
  return { at, width: Math.min(34, (RAILS - 8) / Math.max(1, columns.length)) }
})
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
    <div class="rails" :style="{ height: `${scoreHeight}px`, width: `${RAILS}px` }">
      <div
        v-for="one in rails"
        :key="one.band.id"
        class="rail"
        :class="{ chosen: one.band.id === chosen, thin: placed.width < 22 }"
        role="slider"
        tabindex="0"
        :aria-label="`${one.band.name} band`"
        :aria-valuetext="`${hertz(one.band.low_hz)} to ${hertz(one.band.high_hz)}`"
        :data-band="one.band.id"
        :style="{
          top: `${rowOf(Math.min(scale.high_hz, one.band.high_hz))}px`,
          bottom: `${scoreHeight - rowOf(Math.max(scale.low_hz, one.band.low_hz))}px`,
          left: `${6 + placed.at.get(one.band.id)! * placed.width}px`,
          width: `${placed.width - 2}px`,
          borderColor: one.colour,
          color: one.colour,
        }"
        @pointerdown="take($event, one.band)"
        @pointermove="drag"
        @pointerup="letGo"
        @keydown="key($event, one.band)"
      >
        <i
          class="end top"
          @pointerdown="hold($event, one.band, 'high')"
          @pointermove="drag"
          @pointerup="letGo"
        />
        <span>{{ one.band.name }}</span>
        <i class="end" @pointerdown="hold($event, one.band, 'low')" @pointermove="drag" @pointerup="letGo" />
      </div>
    </div>
    <div class="names" :style="{ top: `${scoreHeight}px`, width: `${RAILS - 8}px` }">
      <div v-for="one in lanes" :key="one.band.id" :style="{ height: `${lane}px`, color: one.colour }">
        <strong>{{ one.band.name }}</strong><small
          v-for="detector in one.detectors"
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
.rails {
  position: absolute;
  right: 0;
  top: 0;
}
.rail {
  position: absolute;
  width: 32px;
  min-height: 26px;
  border: 1.5px solid;
  border-radius: 8px;
  background: color-mix(in srgb, currentColor 20%, var(--ground));
  cursor: grab;
  touch-action: none;
  display: grid;
  place-items: center;
}
.rail span {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  font-size: 13px;
  font-weight: 700;
  pointer-events: none;
  line-height: 1;
}
.end {
  position: absolute;
  left: 0;
  right: 0;
  height: 10px;
  bottom: -3px;
  cursor: ns-resize;
}
.end.top {
  top: -3px;
  bottom: auto;
}
.end::after {
  content: '';
  position: absolute;
  left: 8px;
  right: 8px;
  top: 4px;
  height: 2px;
  background: currentColor;
  border-radius: 1px;
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
}
.finding {
  cursor: crosshair;
}
.chosen {
  background: color-mix(in srgb, currentColor 38%, var(--ground));
}
.thin span {
  display: none;
}
.names small {
  font-size: 13px;
  opacity: 0.9;
  white-space: nowrap;
}
.names .wrong {
  color: var(--alarm);
  opacity: 1;
}
.beat {
  color: var(--bolt);
}
</style>
