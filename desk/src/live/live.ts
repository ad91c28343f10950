// The live socket: frames and news. Panels say which blocks they draw; what nobody draws is not asked for.
import { ref, shallowRef } from 'vue'
import type { Layout, PageEvent, Plan, Reason, ShowState } from '../api/api'
import { OUTPUTS } from './outputs'
import { SURFACE } from './surface'
import { Block, decode, STATUS_SIZE, type Packet } from './wire'

/** What is wrong somewhere: a code to act on, and words to read. */
export interface Fault {
  code: string
  text: string
}

export interface InputState {
  use: string
  fault: Fault | null
  warning?: string
  track?: string
  position_s?: number
  /** Seconds since the house band's bar began. */
  in_bar_s?: number
  /** Of a film's sound: where its picture is, seconds of film in a second (backward below 0), and its track. */
  film?: { at_s: number | null; speed: number; track: string }
  length_s?: number
  playing?: boolean
  dropped?: number
  arriving?: boolean
  creep_db?: number
  recording: { seconds: number; lost: number; fault: Fault | null } | null
  hits: Record<string, { a_bar: number | null; warning: string }>
  room: { left_s?: number; room_dbfs?: number; proposed_dbfs?: number }
}

export interface EngineState {
  /** When the sound of a frame had been heard whole. */
  clock?: { number: number; unix_ms: number }
  guard?: { causes: { text: string; target: string; a_second: number }[] }
  library?: number
  library_fault?: Fault | null
  importing?: Record<string, number>
  /** Of the process that hears controllers. */
  ports?: {
    controllers?: string[]
    fault?: Fault | null
    clock?: { sent: number; p50_ms?: number; p99_ms?: number }
  }
  engine: boolean
  saved: boolean
  fault: Fault | null
  unsaved: number
  inputs?: Record<string, InputState>
  lights?: {
    /** Lamps that would have flashed too often. */
    held_back?: string[]
    sent: number
    failed: number
    fault: Fault | null
    outputs?: Record<
      string,
      { sent: number; failed: number; a_second: number; universes: number[]; fault: Fault | null }
    >
  }
  measured?: { tick_to_wire_ms?: { p50: number; p95: number } }
  why?: Record<string, Reason>
  /** Of modulators that are faulty, by their id. */
  why_modulators?: Record<string, Reason>
  /** Why the newest change is not played; empty for all is well. */
  unplayed?: string
  overridden?: string[]
  modulator_faults?: Record<string, Fault>
  repaired?: number
  beat?: { nudged_ms: number; marked: boolean; leaned: boolean; fits: boolean; downbeat_sure: boolean }
}

/** An edit as it was made: what stands where now. */
export interface EditNews {
  id: number
  from: number
  version: number
  undo: string
  redo: string
  changes: { path: string; value: unknown }[]
  names?: Record<string, string>
  palette: string
  colours: string[]
}

export const connected = ref(false)
export const layout = shallowRef<Layout | null>(null)
export const plan = shallowRef<Plan | null>(null)
export const state = shallowRef<EngineState>({ engine: false, saved: true, fault: null, unsaved: 0 })
export const showNews = shallowRef<ShowState | null>(null)
export const editNews = shallowRef<EditNews | null>(null)
/** What the server has to say beside all that: what it refused, what ended and is there again. */
export const saidNews = shallowRef<{ title: string; detail: string } | null>(null)
export const framesPerSecond = ref(0)
/** Milliseconds from the sound of a frame to its picture, of 95 in 100 in the last second, by both clocks. */
export const lateness = ref<number | null>(null)
let clock: { number: number; unix_ms: number } | null = null
let late: number[] = []
/** True once the server has said whether a show is open. */
export const greeted = ref(false)

const SLOWEST_RETRY_MS = 2000
let socket: WebSocket | null = null
let retry = 250
let started = false
/** What each panel draws, who hears every frame, and who paints the newest. */
export const wants = new Map<symbol, readonly number[]>()
export const listeners = new Set<(packet: Packet) => void>()
export const painters = new Set<(packet: Packet) => void>()
let latest: Packet | null = null
let painted = -1
let counted = 0
let countedAt = 0

/** Tell the server which blocks are drawn now. */
export function ask(): void {
  if (socket?.readyState !== WebSocket.OPEN) return
  const blocks = document.hidden ? [] : [...new Set([...wants.values()].flat())]
  socket.send(JSON.stringify({ want: blocks }))
}

let shows = ''
/** Begin: nothing is opened, asked or painted before. output: the address of the one that this page shows. */
export function connect(output = ''): void {
  if (!started) {
    shows = output && `?output=${encodeURIComponent(output)}`
    started = true
    document.addEventListener('visibilitychange', ask)
    requestAnimationFrame(paint)
  }
  const scheme = location.protocol === 'https:' ? 'wss' : 'ws'
  socket = new WebSocket(`${scheme}://${location.host}/api/v1/live${shows}`)
  socket.binaryType = 'arraybuffer'
  socket.onopen = () => {
    connected.value = true
    retry = 250
    ask()
  }
  socket.onclose = () => {
    connected.value = false
    setTimeout(() => connect(), retry)
    retry = Math.min(SLOWEST_RETRY_MS, retry * 2)
  }
  socket.onmessage = (event) =>
    typeof event.data === 'string' ? hearNews(event.data) : hearFrame(event.data as ArrayBuffer)
}

function hearNews(text: string): void {
  const { type, data } = JSON.parse(text)
  if (type === 'layout') {
    layout.value = data.layout
    plan.value = data.plan
  } else if (type === 'show') showNews.value = data
  else if (type in SURFACE) SURFACE[type as keyof typeof SURFACE](data)
  else if (type in OUTPUTS) OUTPUTS[type as keyof typeof OUTPUTS](data)
  else if (type === 'edit') editNews.value = data
  else if (type === 'problem' || type === 'healed') saidNews.value = data
  else if (type === 'state') {
    state.value = data
    if (data.clock) clock = data.clock
    greeted.value = true
  }
}

function hearFrame(message: ArrayBuffer): void {
  const packet = decode(message)
  if (!packet) return
  latest = packet
  for (const listener of listeners) listener(packet)
}

/** What happens now need not say how long ago it was. */
type Now<E> = E extends { age_s: number } ? Omit<E, 'age_s'> : E

/** What a hand did: an event, as src/fulgura/core/show/events.py has them. */
export function act(event: Now<PageEvent>): void {
  if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify({ event }))
}

/** How this page draws its output. */
export function report(told: object): void {
  if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify({ report: told }))
}

/** Hold a live value: at a value, or, without one, where it is. */
export function hold(target: string, value: number | string | boolean | null = null): void {
  act({ event: 'override-set', target, value })
}

/** These lamps shine white for a second from now; none: they are let go. */
export function identify(lamps: string[]): void {
  act({ event: 'lamps-identified', lamps })
}

/** Give a held value back to what moves it; without a target all that are held. */
export function giveBack(target = '', glide_ms = 400): void {
  act({ event: 'override-released', target, glide_ms })
}

function paint(now: number): void {
  requestAnimationFrame(paint)
  if (latest && latest.number !== painted) {
    painted = latest.number
    for (const painter of painters) painter(latest)
    if (clock) late.push(Date.now() - clock.unix_ms - ((latest.number - clock.number) * 1000) / 60)
    counted++
  }
  if (now - countedAt > 1000) {
    framesPerSecond.value = Math.round((counted * 1000) / (now - countedAt))
    counted = 0
    countedAt = now
    late.sort((a, b) => a - b)
    lateness.value = late[Math.floor(late.length * 0.95)] ?? null
    late = []
  }
}

/** An input's row of the status block. */
export function statusOf(packet: Packet, input: string): Float32Array | undefined {
  const at = layout.value?.inputs.findIndex((entry) => entry.id === input) ?? -1
  const block = packet.blocks.get(Block.status) as Float32Array | undefined
  return at < 0 || !block || block.length < (at + 1) * STATUS_SIZE
    ? undefined
    : block.subarray(at * STATUS_SIZE, (at + 1) * STATUS_SIZE)
}
