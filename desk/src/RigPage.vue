<script setup lang="ts">
// A rig that is no rig: the same two views as the desk's, from packets alone.
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { paintRig } from './lights/drawing'
import { Frame, type Hung, type Room, type View } from './lights/geometry'

interface Universe {
  protocol: string
  universe: number
  source: string
  priority: number
  packets: number
  packets_per_s: number
  lost: number
  late: number
  longest_gap_s: number
  state: string
}
const RETRY_MS = 800
const CLOCK = 8
const LIGHT = 4
const KEPT = 240
const NONE: ReadonlySet<string> = new Set()
const view = ref<View>('front')
const universes = ref<Universe[]>([])
const words = ref('Waiting for the stand-in.')
const delay = ref<number | null>(null)
const lamps = ref<Hung[]>([])
const room = ref<Room | null>(null)
const canvas = ref<HTMLCanvasElement>()
const holder = ref<HTMLElement>()
const { width, height } = useElementSize(holder)
const frame = computed(() =>
  room.value && width.value ? new Frame(room.value, view.value, width.value, height.value) : null,
)
let context: CanvasRenderingContext2D | null = null
let newest: ArrayBuffer | null = null
let known = -1
const delays: number[] = []

async function learn(): Promise<void> {
  const file = await (await fetch('/rig.json')).json()
  let cell = 0
  lamps.value = (file.lamps ?? []).map((lamp: { cells: unknown[] } & Omit<Hung, 'cell' | 'cells'>) => {
    const own = { ...lamp, cell, cells: lamp.cells.length }
    cell += lamp.cells.length
    return own
  })
  room.value = file.room ?? null
}
function hear(text: string): void {
  const news = JSON.parse(text)
  universes.value = news.universes
  words.value =
    news.fault || (news.lamps ? '' : 'No rig file yet: tell it this rig from the desk, Lights, Wire.')
  if (news.lamps !== known) {
    known = news.lamps
    void learn()
  }
}
let socket: WebSocket | null = null
/** Out of sight it hears nothing, and draws nothing. */
function connect(): void {
  if (document.hidden) return
  socket = new WebSocket(`ws://${location.host}/live`)
  socket.binaryType = 'arraybuffer'
  socket.onmessage = ({ data }) => {
    if (typeof data === 'string') hear(data)
    else newest = data
  }
  socket.onclose = () => {
    if (document.hidden) return
    words.value = 'The stand-in is gone; trying on.'
    known = -1
    setTimeout(connect, RETRY_MS)
  }
}
document.addEventListener('visibilitychange', () => (document.hidden ? socket?.close() : connect()))
let arrived = 0
function paint(now: number): void {
  requestAnimationFrame(paint)
  if (!newest || !context || !frame.value || document.hidden) return
  const when = new Float64Array(newest, 0, 1)[0]!
  const cells = lamps.value.reduce((sum, lamp) => sum + lamp.cells, 0)
  const numbers = new Float32Array(newest, CLOCK)
  if (numbers.length < cells * LIGHT) return
  const drawn = { frame: frame.value, lamps: lamps.value, chosen: NONE }
  paintRig(context, drawn, numbers.subarray(0, cells * LIGHT), numbers.subarray(cells * LIGHT), now)
  if (when !== arrived) {
    arrived = when
    delays.push(Date.now() - when)
    if (delays.length > KEPT) delays.shift()
    delay.value = [...delays].sort((a, b) => a - b)[Math.floor(delays.length * 0.95)]!
  }
}
watch([width, height], () => {
  if (!canvas.value) return
  canvas.value.width = width.value * devicePixelRatio
  canvas.value.height = height.value * devicePixelRatio
  context?.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0)
})
onMounted(() => {
  context = canvas.value?.getContext('2d') ?? null
  connect()
  requestAnimationFrame(paint)
})
const name = (protocol: string): string => (protocol === 'sacn' ? 'sACN' : 'Art-Net')
</script>

<template>
  <main>
    <header class="row">
      <h2>Rig (stand-in)</h2>
      <button class="button" :class="{ on: view === 'front' }" @click="view = 'front'">Front</button>
      <button class="button" :class="{ on: view === 'top' }" @click="view = 'top'">Top</button>
      <span class="soft">Read from packets alone: this page does not know the engine.</span>
      <span class="grow" />
      <span v-if="delay !== null" class="soft"
        >from packet to screen <span class="num">{{ delay.toFixed(0) }}</span> ms (p95)</span
      >
    </header>
    <p v-if="words" class="soft" role="status">{{ words }}</p>
    <div ref="holder" class="holder"><canvas ref="canvas" /></div>
    <table class="num">
      <thead>
        <tr>
          <th>Universe</th>
          <th>Protocol</th>
          <th>From</th>
          <th>Priority</th>
          <th>A second</th>
          <th>Packets</th>
          <th>Lost</th>
          <th>Out of order</th>
          <th>Longest gap</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in universes"
          :key="`${row.protocol} ${row.universe} ${row.source}`"
          :data-universe="row.universe"
        >
          <td>{{ row.universe }}</td>
          <td>{{ name(row.protocol) }}</td>
          <td>{{ row.source }}</td>
          <td>{{ row.priority }}</td>
          <td>{{ row.packets_per_s.toFixed(0) }}</td>
          <td>{{ row.packets }}</td>
          <td>{{ row.lost }}</td>
          <td>{{ row.late }}</td>
          <td>{{ (row.longest_gap_s * 1000).toFixed(0) }} ms</td>
          <td :class="{ bad: row.state !== 'receiving' }">{{ row.state }}</td>
        </tr>
        <tr v-if="!universes.length">
          <td colspan="10" class="soft">Waiting for the first packet on these ports.</td>
        </tr>
      </tbody>
    </table>
  </main>
</template>

<style scoped>
main {
  height: 100vh;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 10px 14px;
}
.holder {
  flex: 1;
  min-height: 0;
  border: 1px solid var(--edge);
  border-radius: 8px;
  overflow: hidden;
}
canvas {
  width: 100%;
  height: 100%;
}
table {
  font-size: 14px;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 3px 10px 3px 0;
  border-bottom: 1px solid var(--edge);
}
th {
  color: var(--soft);
  font-weight: 400;
}
.bad {
  color: var(--alarm);
}
</style>
