// What the playing surface shows, what controls say, and what they are to show: news of the engine.
import { ref, shallowRef } from 'vue'

export interface TempoState {
  /** Which source rules: sound, hand, midi, osc. */
  rules: string
  there: boolean
  says: string
  sources: { source: string; bpm: number; sure: boolean }[]
  running: boolean
  placed: boolean
  sixteenth: number
  from: string
  taps: number
}

export interface SurfaceState {
  page: string
  /** State of pads that are not at rest: "on" or "waits". */
  pads: Record<string, string>
  /** Id of a cue that waits for its line. */
  waiting: string
  /** Beats at which the last cue went. */
  since: number
  /** Sentences for the performer. */
  said: string[]
  /** Mappings whose fader has not picked its value up, by their ids, and where it stands. */
  waits: Record<string, number>
  /** Where the faders of the open page stand, 0..1. */
  faders: Record<string, number>
  /** At which beat of the show a waiting pad or cue goes. */
  due: Record<string, number>
  learning: { does: string; target: string; action: { kind: string; values: object } | null } | null
  tempo: TempoState
}

export interface ControlRow {
  number: number
  controller: string
  source: string
  value: number
  did: string
}

/** Controller, control, value 0..1, and the MIDI message that shows it; empty for what is no MIDI. */
export type FeedbackRow = [string, string, number, number[]]

const NOTHING: SurfaceState = {
  page: '',
  pads: {},
  waiting: '',
  since: 0,
  said: [],
  waits: {},
  faders: {},
  due: {},
  learning: null,
  tempo: {
    rules: 'sound',
    there: true,
    says: '',
    sources: [],
    running: false,
    placed: false,
    sixteenth: 0,
    from: '',
    taps: 0,
  },
}
const ROWS = 40

export const surface = shallowRef<SurfaceState>(NOTHING)
/** What controls said, the newest last. */
export const said = shallowRef<ControlRow[]>([])
/** Who passes feedback on to controllers at this browser. */
export const feedbackListeners = new Set<(rows: FeedbackRow[]) => void>()
/** Counts up with every message, for those who only wait for one. */
export const heard = ref(0)

/** How each kind of news is taken. */
export const SURFACE = {
  surface(state: Partial<SurfaceState>): void {
    surface.value = { ...NOTHING, ...state }
  },
  control(rows: ControlRow[]): void {
    said.value = [...said.value, ...rows].slice(-ROWS)
    heard.value += rows.length
  },
  feedback(rows: FeedbackRow[]): void {
    for (const listener of feedbackListeners) listener(rows)
  },
}
