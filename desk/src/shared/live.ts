// The live socket: frames and news. Panels say which blocks they draw; what nobody draws is not asked for.
import { onScopeDispose, ref, shallowRef, watchEffect } from 'vue'
import type { Layout, Plan, Reason, ShowState } from './api'
import { Block, decode, STATUS_SIZE, type Packet } from './wire'

export interface InputState {
  use: string
  trouble: string
  warning?: string
  track?: string
  position_s?: number
  length_s?: number
  playing?: boolean
  dropped?: number
  arriving?: boolean
  creep_db?: number
  recording: { seconds: number; lost: number; trouble: string } | null
  hits: Record<string, { a_bar: number | null; warning: string }>
  room: { left_s?: number; room_dbfs?: number; proposed_dbfs?: number }
}

export interface EngineState {
  library?: number
  library_trouble?: string
  taking?: Record<string, number>
  control?: { learning: string; last: string; waits: string; trouble: string }
  engine: boolean
  saved: boolean
  trouble: string
  unsaved: number
  inputs?: Record<string, InputState>
  lights?: { sent: number; failed: number; trouble: string }
  why?: Record<string, Reason>
  held?: string[]
  mover_troubles?: Record<string, string>
  repaired?: number
  beat?: { nudged_ms: number; marked: boolean; leaned: boolean; fits: boolean; one_sure: boolean }
}

export const connected = ref(false)
export const layout = shallowRef<Layout | null>(null)
export const plan = shallowRef<Plan | null>(null)
export const state = shallowRef<EngineState>({ engine: false, saved: true, trouble: '', unsaved: 0 })
export const showNews = shallowRef<ShowState | null>(null)
/** An edit as it was made: what stands where now. */
export interface EditNews {
  id: number
  from: number
  version: number
  undo: string
  redo: string
  changes: { path: string; value: unknown }[]
}
export const editNews = shallowRef<EditNews | null>(null)
export const framesPerSecond = ref(0)
/** True once the server has said whether a show is open. */
export const greeted = ref(false)

let socket: WebSocket | null = null
let retry = 250
const wants = new Map<symbol, readonly number[]>()
const listeners = new Set<(packet: Packet) => void>()
const painters = new Set<(packet: Packet) => void>()
let latest: Packet | null = null
let painted = -1
let counted = 0
let countedAt = 0

function ask(): void {
  if (socket?.readyState !== WebSocket.OPEN) return
  const blocks = document.hidden ? [] : [...new Set([...wants.values()].flat())]
  socket.send(JSON.stringify({ want: blocks }))
}

export function connect(): void {
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
    retry = Math.min(2000, retry * 2)
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

/** What a controller at this browser said. */
export function sendFader(fader: string, position: number): void {
  if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify({ fader, position }))
}

/** Hold a live value: at a value, or, without one, where it is. */
export function hold(target: string, value?: number | string | boolean): void {
  if (socket?.readyState === WebSocket.OPEN)
    socket.send(JSON.stringify(value === undefined ? { hold: target } : { hold: target, value }))
}

/** Give a held value back to what moves it; without a target all that are held. */
export function giveBack(target = '', glide_ms = 400): void {
  if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify({ give_back: target, glide_ms }))
}

document.addEventListener('visibilitychange', ask)

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
requestAnimationFrame(paint)

/** An input's row of the status block. */
export function statusOf(packet: Packet, input: string): Float32Array | undefined {
  const at = layout.value?.inputs.findIndex((one) => one.id === input) ?? -1
  const block = packet.blocks.get(Block.status) as Float32Array | undefined
  return at < 0 || !block || block.length < (at + 1) * STATUS_SIZE
    ? undefined
    : block.subarray(at * STATUS_SIZE, (at + 1) * STATUS_SIZE)
}

/** Ask for blocks while this component lives; hear every frame, and paint at most once per display frame. */
export function useFrames(
  blocks: readonly number[] | (() => readonly number[]),
  on: { every?: (packet: Packet) => void; paint?: (packet: Packet) => void },
): void {
  const key = Symbol()
  watchEffect(() => {
    wants.set(key, typeof blocks === 'function' ? blocks() : blocks)
    ask()
  })
  if (on.every) listeners.add(on.every)
  if (on.paint) painters.add(on.paint)
  onScopeDispose(() => {
    wants.delete(key)
    if (on.every) listeners.delete(on.every)
    if (on.paint) painters.delete(on.paint)
    ask()
  })
}
