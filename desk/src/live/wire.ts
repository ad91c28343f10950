// Reads frame messages: docs/formats/frame.md. Python's twin is src/fulgura/core/wire.py.
export const Block = {
  uniforms: 1,
  waveform: 2,
  status: 3,
  signals: 4,
  live: 5,
  routes: 6,
  spectrum: 7,
  hits: 8,
  beats: 9,
  lamps: 10,
  pose: 13,
  channels: 14,
  telemetry: 11,
  stereo: 12,
  picture: 15,
  pictures: 16,
  palette: 17,
} as const
export type BlockId = (typeof Block)[keyof typeof Block]

export interface Packet {
  plan: number
  layout: number
  number: number
  time: number
  blocks: Map<number, Float32Array | Float64Array | Uint8Array | Uint16Array>
}

const HEADER = 32
const MAGIC = 0x474c5546 // "FULG", little-endian

/** A frame message to a packet; null for anything that is not a whole message of this version. */
export function decode(message: ArrayBuffer): Packet | null {
  if (message.byteLength < HEADER) return null
  const view = new DataView(message)
  if (view.getUint32(0, true) !== MAGIC || view.getUint16(4, true) !== 1) return null
  const packet: Packet = {
    plan: view.getUint32(8, true),
    layout: view.getUint32(12, true),
    number: Number(view.getBigUint64(16, true)),
    time: view.getFloat64(24, true),
    blocks: new Map(),
  }
  let at = HEADER
  for (let i = view.getUint16(6, true); i > 0; i--) {
    if (message.byteLength < at + 8) return null
    const id = view.getUint16(at, true)
    const kind = view.getUint16(at + 2, true)
    const length = view.getUint32(at + 4, true)
    at += 8
    if (message.byteLength < at + length) return null
    if (kind === 1) packet.blocks.set(id, new Float32Array(message, at, length / 4))
    else if (kind === 2) packet.blocks.set(id, new Uint8Array(message, at, length))
    else if (kind === 3) packet.blocks.set(id, new Float64Array(message.slice(at, at + length)))
    else if (kind === 4) packet.blocks.set(id, new Uint16Array(message, at, length / 2))
    else return null
    at += length + ((4 - (length % 4)) % 4)
  }
  return packet
}

/** The status block's row of an input: as many numbers each as there are here. */
export const Status = {
  rms: 0,
  peak: 1,
  clips: 2,
  repaired: 3,
  bpm: 4,
  confidence: 5,
  barPhase: 6,
  barPosition: 7,
  nextBeat: 8,
  interval: 9,
  blackout: 10,
  soundAmount: 11,
  momentary: 12,
  shortTerm: 13,
  followed: 14,
  open: 15,
  beatsABar: 16,
} as const

export const STATUS_SIZE = Object.keys(Status).length
