// What was heard in the last seconds: spectra and levels in a ring of columns, marks of hits and beats beside
// it.
import { statusOf } from '../../live/live'
import { Block, type Packet } from '../../live/wire'

export const SECONDS = 8
/** How long marks of what is predicted may lie ahead. */
const AHEAD_S = { hits: 1, beats: 2 }
const HIT_NUMBERS = 5
const BEAT_NUMBERS = 3

export interface Mark {
  detector: number
  /** 0 when it counted; else why not, as the layout lists reasons. */
  reason: number
  t: number
  strength: number
  threshold: number
}
export interface Beat {
  t: number
  position: number
}

export class History {
  readonly columns: number
  readonly times: Float64Array
  readonly spectra: Uint8Array
  levels = new Float32Array(0)
  /** Numbers of a column of levels. */
  stride = 0
  /** Columns ever written; the ring keeps the last ones. */
  written = 0
  marks: Mark[] = []
  beats: Beat[] = []
  status: Float32Array | null = null
  private last = 0

  /**
   * rows: bins of a spectrum; inputIndex: the input's among all; restarted: told when what was seen has no place
   * any more.
   */
  constructor(
    readonly rows: number,
    private readonly rate: number,
    private readonly input: string,
    private readonly inputIndex: () => number,
    private readonly restarted: () => void,
  ) {
    this.columns = SECONDS * rate
    this.times = new Float64Array(this.columns)
    this.spectra = new Uint8Array(this.columns * rows)
  }

  get latest(): number {
    return this.times[(this.written - 1) % this.columns]!
  }

  hear(packet: Packet): void {
    const index = this.inputIndex()
    const all = packet.blocks.get(Block.spectrum) as Uint8Array | undefined
    const signals = packet.blocks.get(Block.signals) as Float32Array | undefined
    if (index < 0 || !all || all.length < (index + 1) * this.rows || !signals) return
    if (signals.length !== this.stride) {
      this.stride = signals.length
      this.levels = new Float32Array(this.columns * this.stride)
    }
    // An engine that was started anew counts its time from the beginning.
    if (this.written && packet.time < this.latest) {
      this.written = 0
      this.restarted()
    }
    this.write(packet, all.subarray(index * this.rows, (index + 1) * this.rows), signals)
    this.mark(packet, index)
    this.status = statusOf(packet, this.input) ?? null
  }

  /**
   * A page that is too slow for every frame shows the last one longer: the score stays in step with its
   * marks.
   */
  private write(packet: Packet, spectrum: Uint8Array, signals: Float32Array): void {
    const missed =
      this.last && packet.number > this.last ? Math.min(this.columns, packet.number - this.last - 1) : 0
    this.last = packet.number
    for (let i = 0; i <= missed; i++) {
      const at = this.written % this.columns
      this.spectra.set(spectrum, at * this.rows)
      this.levels.set(signals, at * this.stride)
      this.times[at] = packet.time - (missed - i) / this.rate
      this.written++
    }
  }

  private mark(packet: Packet, input: number): void {
    const hits = packet.blocks.get(Block.hits) as Float64Array | undefined
    for (let i = 0; hits && i < hits.length; i += HIT_NUMBERS)
      this.marks.push({
        detector: hits[i]!,
        reason: hits[i + 1]!,
        t: hits[i + 2]!,
        strength: hits[i + 3]!,
        threshold: hits[i + 4]!,
      })
    const beats = packet.blocks.get(Block.beats) as Float64Array | undefined
    for (let i = 0; beats && i < beats.length; i += BEAT_NUMBERS)
      if (beats[i + 2] === input) this.beats.push({ t: beats[i]!, position: beats[i + 1]! })
    this.marks = kept(this.marks, packet.time, AHEAD_S.hits)
    this.beats = kept(this.beats, packet.time, AHEAD_S.beats)
  }
}

/** Those that are still on the score; the very same list when all are. */
function kept<T extends { t: number }>(marks: T[], now: number, ahead: number): T[] {
  const on = (mark: T): boolean => mark.t >= now - SECONDS && mark.t <= now + ahead
  return marks[0] && !on(marks[0]) ? marks.filter(on) : marks
}
