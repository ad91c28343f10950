// The live socket: frames and news. Panels say which blocks they draw; what nobody draws is not asked for.
import { ref, shallowRef } from 'vue'
import type { Layout, PageEvent, Plan, Reason, ShowState } from '../api/api'
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
}

export const connected = ref(false)
export const layout = shallowRef<Layout | null>(null)
export const plan = shallowRef<Plan | null>(null)
export const state = shallowRef<EngineState>({ engine: false, saved: true, fault: null, unsaved: 0 })
export const showNews = shallowRef<ShowState | null>(null)
export const editNews = shallowRef<EditNews | null>(null)
export const framesPerSecond = ref(0)
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

/** Begin: nothing is opened, asked or painted before. */
export function connect(): void {
  if (!started) {
    started = true
    document.addEventListener('visibilitychange', ask)
    requestAnimationFrame(paint)
  }
  socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/v1/live`)
  socket.binaryType = 'arraybuffer'
  socket.onopen = () => {
    connected.value = true
    retry = 250
    ask()
  }
  socket.onclose = () => {
    connected.value = false
    setTimeout(connect, retry)
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
  else if (type === 'edit') editNews.value = data
  else if (type === 'state') {
    state.value = data
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
    counted++
  }
  if (now - countedAt > 1000) {
    framesPerSecond.value = Math.round((counted * 1000) / (now - countedAt))
    counted = 0
    countedAt = now
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
