<script setup lang="ts">
// The score: eight seconds of sound as a spectrogram with the bands as rails, a lane for each band with its
// hits, and a lane of beats that reaches past "now" to what is predicted.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Band } from '../shared/api'
import { hertz } from '../shared/format'
import { layout, useFrames } from '../shared/live'
import { newGesture, useShow } from '../shared/show'
import { pitchRgb, signalColour, tokens } from '../shared/tokens'
import { Block, Status, type Packet } from '../shared/wire'

const emit = defineEmits<{ reject: [text: string] }>()
const show = useShow()
const box = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)

// What the drawing needs to know of the display bins: Python says in docs/formats/frame.md.
const ROWS = 96
const LOW_HZ = 30
const HIGH_HZ = 16_000
const SECONDS = 8
const RATE = 60
const COLUMNS = SECONDS * RATE
const AHEAD_S = 0.8
const LABELS = 46
const RAILS = 108
const LANE = 64
const BEATS = 46

const HIT_OF: Record<string, string> = { low: 'kick', mid: 'snare', high: 'hat' }
interface Mark { detector: number; reason: number; t: number; strength: number }
let marks: Mark[] = []
let beats: { t: number; position: number }[] = []
const times = new Float64Array(COLUMNS)
let levels = new Float32Array(0)
let stride = 0
let written = 0
let status: Float32Array | null = null

const paper = new OffscreenCanvas(COLUMNS, ROWS)
const ink = paper.getContext('2d')!
const column = ink.createImageData(1, ROWS)
const colours = Array.from({ length: ROWS }, (_, row) => pitchRgb(row / (ROWS - 1)))

function every(packet: Packet): void {
  const spectrum = packet.blocks.get(Block.spectrum) as Uint8Array | undefined
  const signals = packet.blocks.get(Block.signals) as Float32Array | undefined
  if (!spectrum || !signals) return
  const x = written % COLUMNS
  for (let row = 0; row < ROWS; row++) {
    // The quiet third stays dark; loud cells run up to white, so that height is never hue alone.
    const level = Math.max(0, (spectrum[row]! / 255 - 0.28) / 0.72)
    const light = level ** 1.7
    const white = Math.max(0, level - 0.75) * 1.6
    const at = (ROWS - 1 - row) * 4
    for (let c = 0; c < 3; c++) column.data[at + c] = Math.min(255, colours[row]![c]! * light * 1.15 + 255 * white * light)
    column.data[at + 3] = 255
  }
  ink.putImageData(column, x, 0)
  if (signals.length !== stride) { stride = signals.length; levels = new Float32Array(COLUMNS * stride); }
  levels.set(signals, x * stride)
  times[x] = packet.time
  written++
  const hits = packet.blocks.get(Block.hits) as Float64Array | undefined
  for (let i = 0; hits && i < hits.length; i += 5) marks.push({ detector: hits[i]!, reason: hits[i + 1]!, t: hits[i + 2]!, strength: hits[i + 3]! })
  const heard = packet.blocks.get(Block.beats) as Float64Array | undefined
  for (let i = 0; heard && i < heard.length; i += 2) beats.push({ t: heard[i]!, position: heard[i + 1]! })
  const oldest = packet.time - SECONDS
  if (marks[0] && (marks[0].t < oldest || marks[0].t > packet.time + 1)) marks = marks.filter((mark) => mark.t >= oldest && mark.t <= packet.time + 1)
  if (beats[0] && (beats[0].t < oldest || beats[0].t > packet.time + 2)) beats = beats.filter((beat) => beat.t >= oldest && beat.t <= packet.time + 2)
  status = packet.blocks.get(Block.status) as Float32Array
}

const bands = computed(() => show.document?.bands ?? [])
const lanes = computed(() => bands.value.map((band) => {
  const signal = show.signals.get(`band-${band.id}`)
  const hit = HIT_OF[band.id] ?? ''
  return { band, index: signal?.index ?? -1, colour: signalColour(signal?.pitch), hit, detector: layout.value?.hits.indexOf(hit) ?? -1 }
}))
const scoreHeight = computed(() => Math.max(80, height.value - BEATS - lanes.value.length * LANE))
const plotWidth = computed(() => Math.max(100, width.value - LABELS - RAILS))
const rowOf = (hz: number): number => (1 - Math.log(hz / LOW_HZ) / Math.log(HIGH_HZ / LOW_HZ)) * scoreHeight.value
const hzAt = (y: number): number => LOW_HZ * (HIGH_HZ / LOW_HZ) ** (1 - y / scoreHeight.value)

function paint(packet: Packet): void {
  const c = canvas.value
  if (!c || width.value < 50) return
  const ratio = Math.min(2, devicePixelRatio)
  if (c.width !== Math.round(width.value * ratio) || c.height !== Math.round(height.value * ratio)) { c.width = Math.round(width.value * ratio); c.height = Math.round(height.value * ratio) }
  const g = c.getContext('2d', { alpha: false })!
  g.setTransform(ratio, 0, 0, ratio, 0, 0)
  g.fillStyle = tokens.ground
  g.fillRect(0, 0, width.value, height.value)
  const perSecond = plotWidth.value / (SECONDS + AHEAD_S)
  const nowX = LABELS + SECONDS * perSecond
  const xOf = (t: number): number => nowX + (t - packet.time) * perSecond
  drawPaper(g, nowX, perSecond)
  g.font = "12px 'JetBrains Mono Variable', monospace"
  g.fillStyle = tokens.soft
  g.textAlign = 'right'
  for (const hz of [50, 100, 200, 500, 1000, 2000, 5000, 10_000]) {
    const y = rowOf(hz)
    g.fillText(hz >= 1000 ? `${hz / 1000}k` : String(hz), LABELS - 8, y + 4)
    g.fillRect(LABELS - 4, y, 4, 1)
  }
  lanes.value.forEach((lane, i) => drawLane(g, lane, scoreHeight.value + i * LANE, nowX, perSecond, xOf))
  drawBeats(g, scoreHeight.value + lanes.value.length * LANE, packet.time, xOf)
  g.fillStyle = tokens.text
  g.fillRect(nowX, 0, 1.5, height.value)
}

function drawPaper(g: CanvasRenderingContext2D, nowX: number, perSecond: number): void {
  const count = Math.min(written, COLUMNS)
  const head = written % COLUMNS
  const columnWidth = perSecond / RATE
  g.imageSmoothingEnabled = true
  // The ring of columns is drawn as its older and its newer part, so that nothing is ever copied or shifted.
  const older = written > COLUMNS ? COLUMNS - head : 0
  if (older) g.drawImage(paper, head, 0, older, ROWS, nowX - count * columnWidth, 0, older * columnWidth, scoreHeight.value)
  const newer = written > COLUMNS ? head : count
  if (newer) g.drawImage(paper, 0, 0, newer, ROWS, nowX - newer * columnWidth, 0, newer * columnWidth, scoreHeight.value)
}

function drawLane(g: CanvasRenderingContext2D, lane: (typeof lanes.value)[number], top: number, nowX: number, perSecond: number, xOf: (t: number) => number): void {
  g.strokeStyle = tokens.edge
  g.strokeRect(LABELS + 0.5, top + 0.5, plotWidth.value, LANE)
  const floor = top + LANE - 4
  const rise = LANE - 24
  if (lane.index >= 0 && stride) {
    const count = Math.min(written, COLUMNS)
    g.beginPath()
    g.moveTo(nowX, floor)
    for (let i = 0; i < count; i++) {
      const at = (written - 1 - i) % COLUMNS
      g.lineTo(nowX - i * (perSecond / RATE), floor - Math.sqrt(levels[at * stride + lane.index]!) * rise)
    }
    g.lineTo(nowX - count * (perSecond / RATE), floor)
    g.globalAlpha = 0.28
    g.fillStyle = lane.colour
    g.fill()
    g.globalAlpha = 1
    g.strokeStyle = lane.colour
    g.lineWidth = 1.5
    g.stroke()
    g.lineWidth = 1
  }
  for (const mark of marks) {
    if (mark.detector !== lane.detector) continue
    const x = xOf(mark.t)
    if (x < LABELS || x > nowX) continue
    const size = mark.reason === 0 ? 4 + 3 * mark.strength : 3.5
    g.beginPath()
    g.moveTo(x - size, top + 4)
    g.lineTo(x + size, top + 4)
    g.lineTo(x, top + 4 + size * 1.5)
    g.closePath()
    if (mark.reason === 0) { g.fillStyle = lane.colour; g.fill() }
    else { g.strokeStyle = tokens.edgeStrong; g.stroke() }
  }
}

function drawBeats(g: CanvasRenderingContext2D, top: number, now: number, xOf: (t: number) => number): void {
  const sure = (status?.[Status.confidence] ?? 0) > 0.3
  const bar = (t: number, position: number, coming: boolean): void => {
    const x = xOf(t)
    if (x < LABELS || x > LABELS + plotWidth.value) return
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
    for (let n = 1; n < 5; n++) bar(last.t + n * interval, ((last.position - 1 + n) % 4) + 1, true)
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
function drag(event: PointerEvent): void {
  if (!grip) return
  const factor = hzAt(event.clientY - grip.y + scoreHeight.value / 2) / hzAt(scoreHeight.value / 2)
  place(grip.band, grip.edge, factor, grip.gesture)
}
function place(band: Band, edge: 'low' | 'high' | 'both', factor: number, gesture: string): void {
  const clamp = (hz: number, low: number, high: number): number => Math.round(Math.min(high, Math.max(low, hz)) * 10) / 10
  let { low_hz: low, high_hz: high } = band
  if (edge !== 'high') low = clamp(low * factor, 20, edge === 'low' ? high / 1.06 : 18_000)
  if (edge !== 'low') high = clamp(high * factor, edge === 'high' ? low * 1.06 : 32, 20_000)
  if (high < low * 1.06) return
  const path = `/bands/${band.id}`
  show.edit({ edit: 'together', edits: [{ edit: 'set', path: `${path}/low_hz`, value: low }, { edit: 'set', path: `${path}/high_hz`, value: high }] }, `${band.name} band`, gesture)
}
function key(event: KeyboardEvent, band: Band): void {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!way) return
  event.preventDefault()
  place(band, event.shiftKey ? 'high' : 'both', 1.03 ** way, '')
}

// Point at a hollow mark and it says why it was not counted.
function point(event: MouseEvent): void {
  const area = canvas.value!.getBoundingClientRect()
  const lane = lanes.value[Math.floor((event.clientY - area.top - scoreHeight.value) / LANE)]
  if (!lane || !written) { emit('reject', ''); return }
  const perSecond = plotWidth.value / (SECONDS + AHEAD_S)
  const t = times[(written - 1) % COLUMNS]! + (event.clientX - area.left - LABELS - SECONDS * perSecond) / perSecond
  const near = marks.filter((mark) => mark.detector === lane.detector && Math.abs(mark.t - t) < 0.07).sort((a, b) => Math.abs(a.t - t) - Math.abs(b.t - t))[0]
  emit('reject', near ? `${lane.hit} ${near.reason === 0 ? `caught, strength ${near.strength.toFixed(2)}` : `not counted: ${layout.value?.reasons[near.reason]}`}` : '')
}
</script>

<template>
  <div ref="box" class="score">
    <canvas ref="canvas" aria-label="The score: the last eight seconds of sound" @mousemove="point" />
    <div class="rails" :style="{ height: `${scoreHeight}px`, width: `${RAILS}px` }">
      <div
        v-for="(lane, i) in lanes" :key="lane.band.id" class="rail" role="slider" tabindex="0" :aria-label="`${lane.band.name} band`" :aria-valuetext="`${hertz(lane.band.low_hz)} to ${hertz(lane.band.high_hz)}`"
        :data-band="lane.band.id" :style="{ top: `${rowOf(Math.min(HIGH_HZ, lane.band.high_hz))}px`, bottom: `${scoreHeight - rowOf(Math.max(LOW_HZ, lane.band.low_hz))}px`, left: `${6 + (i % 3) * 34}px`, borderColor: lane.colour, color: lane.colour }"
        @pointerdown="hold($event, lane.band, 'both')" @pointermove="drag" @pointerup="grip = null" @keydown="key($event, lane.band)"
      >
        <i class="end top" @pointerdown="hold($event, lane.band, 'high')" @pointermove="drag" @pointerup="grip = null" />
        <span>{{ lane.band.name }}</span>
        <i class="end" @pointerdown="hold($event, lane.band, 'low')" @pointermove="drag" @pointerup="grip = null" />
      </div>
    </div>
    <div class="names" :style="{ top: `${scoreHeight}px`, width: `${RAILS - 8}px` }">
      <div v-for="lane in lanes" :key="lane.band.id" :style="{ height: `${LANE}px`, color: lane.colour }">
        <strong>{{ lane.band.name }}</strong><br /><small v-if="lane.detector >= 0">▼ {{ lane.hit }}</small>
      </div>
      <div class="beat">Beat</div>
    </div>
  </div>
</template>

<style scoped>
.score { position: relative; flex: 1; min-height: 0; min-width: 0; overflow: hidden; border-radius: 6px; background: var(--ground) }
canvas { width: 100%; height: 100%; position: absolute; inset: 0 }
.rails { position: absolute; right: 0; top: 0 }
.rail { position: absolute; width: 32px; min-height: 26px; border: 1.5px solid; border-radius: 8px; background: color-mix(in srgb, currentColor 20%, var(--ground)); cursor: grab; touch-action: none; display: grid; place-items: center }
.rail span { writing-mode: vertical-rl; transform: rotate(180deg); font-size: 13px; font-weight: 700; pointer-events: none; line-height: 1 }
.end { position: absolute; left: 0; right: 0; height: 10px; bottom: -3px; cursor: ns-resize }
.end.top { top: -3px; bottom: auto }
.end::after { content: ''; position: absolute; left: 8px; right: 8px; top: 4px; height: 2px; background: currentColor; border-radius: 1px }
.names { position: absolute; right: 0; font-size: 14px; line-height: 1.25; pointer-events: none }
.names > div { padding: 12px 0 0 4px } .names small { font-size: 13px; opacity: .9 } .beat { color: var(--bolt) }
</style>
