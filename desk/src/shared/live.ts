// The live socket: frames and news. Panels say which blocks they draw; what nobody draws is not asked for.
import { onScopeDispose, ref, shallowRef } from 'vue'
import type { Layout, Plan, ShowState } from './api'
import { decode, type BlockId, type Packet } from './wire'

export interface EngineState {
  engine: boolean
  saved: boolean
  trouble: string
  unsaved: number
  input?: { use: string; trouble: string; track?: string; position_s?: number; length_s?: number; playing?: boolean; dropped?: number; arriving?: boolean; creep_db?: number }
  lights?: { sent: number; failed: number; trouble: string }
  why?: Record<string, string>
  repaired?: number
}

export const connected = ref(false)
export const layout = shallowRef<Layout | null>(null)
export const plan = shallowRef<Plan | null>(null)
export const state = shallowRef<EngineState>({ engine: false, saved: true, trouble: '', unsaved: 0 })
export const showNews = shallowRef<ShowState | null>(null)
export const framesPerSecond = ref(0)
/** True once the server has said whether a show is open. */
export const greeted = ref(false)

let socket: WebSocket | null = null
let retry = 250
const wants = new Map<symbol, readonly BlockId[]>()
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
  socket.onopen = () => { connected.value = true; retry = 250; ask() }
  socket.onclose = () => {
    connected.value = false
    setTimeout(connect, retry)
    retry = Math.min(2000, retry * 2)
  }
  socket.onmessage = (event) => (typeof event.data === 'string' ? hearNews(event.data) : hearFrame(event.data as ArrayBuffer))
}

function hearNews(text: string): void {
  const { type, data } = JSON.parse(text)
  if (type === 'layout') { layout.value = data.layout; plan.value = data.plan }
  else if (type === 'show') showNews.value = data
  else if (type === 'state') { state.value = data; greeted.value = true }
}

function hearFrame(message: ArrayBuffer): void {
  const packet = decode(message)
  if (!packet) return
  latest = packet
  for (const listener of listeners) listener(packet)
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

/** Ask for blocks while this component lives; hear every frame, and paint at most once per display frame. */
export function useFrames(blocks: readonly BlockId[], on: { every?: (packet: Packet) => void; paint?: (packet: Packet) => void }): void {
  const key = Symbol()
  wants.set(key, blocks)
  if (on.every) listeners.add(on.every)
  if (on.paint) painters.add(on.paint)
  ask()
  onScopeDispose(() => {
    wants.delete(key)
    if (on.every) listeners.delete(on.every)
    if (on.paint) painters.delete(on.paint)
    ask()
  })
}
