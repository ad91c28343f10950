// The night line's arithmetic: where songs begin, where cues stand, where now is. Seconds from doors on.
import type { Cue, Song, Show, Track } from '../api/api'

/** A song without a length, and without a track that has one, is drawn so long. */
export const USUAL_S = 180

export interface Stretch {
  song: Song
  from: number
  length: number
  /** Its track is not in the library. */
  missing: boolean
}
export interface Flag {
  cue: Cue
  at: number
}

export function stretches(songs: readonly Song[], tracks: readonly Track[]): Stretch[] {
  let from = 0
  return songs.map((song) => {
    const track = tracks.find((track) => track.id === song.track)
    const length = song.skipped ? 0 : song.length_s || track?.seconds || USUAL_S
    const stretch = { song, from, length, missing: !!song.track && !track }
    from += length
    return stretch
  })
}

/** Cues of songs stand at their places; one of no song stands behind the cue before it. */
export function flags(cues: readonly Cue[], rows: readonly Stretch[]): Flag[] {
  let last = 0
  return cues.map((cue) => {
    const stretch = rows.find((row) => row.song.id === cue.song)
    last = stretch ? stretch.from + Math.min(cue.at_s ?? 0, stretch.length) : last + 5
    return { cue, at: last }
  })
}

const secondsOf = (clock: string): number =>
  clock.split(':').reduce((sum, part, i) => sum + Number(part) * [3600, 60, 1][i]!, 0)

/** Where now is: by the clock, by the track that plays, or by the cue that went last. */
export function nowAt(
  show: Show,
  rows: readonly Stretch[],
  placed: readonly Flag[],
  playing: { track: string; position: number },
  clock: Date,
): number {
  const night = show.night!
  if (night.runs === 'clock') {
    const day = 86_400
    const now = clock.getHours() * 3600 + clock.getMinutes() * 60 + clock.getSeconds()
    const gone = (now - secondsOf(night.doors!) + day) % day
    return gone > day / 2 ? 0 : gone
  }
  const song = rows.find((row) => row.song.id === show.song)
  if (song?.song.track && song.song.track === playing.track)
    return song.from + Math.min(playing.position, song.length)
  return placed.find(({ cue }) => cue.id === show.cue)?.at ?? song?.from ?? 0
}

export const clockWords = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
