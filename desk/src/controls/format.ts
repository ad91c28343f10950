/** Digits after the point for ranges that are wider than this. */
const DIGITS = [
  [400, 0],
  [20, 1],
  [0.5, 2],
  [-Infinity, 3],
] as const

/** A number in as many digits as its range calls for. */
export function digits(value: number | undefined, low: number, high: number): string {
  const span = Math.abs(high - low)
  // News of a value may come after those of what it belongs to.
  return (value ?? 0).toFixed(DIGITS.find(([above]) => span > above)![1])
}

export const hertz = (hz: number): string =>
  hz >= 1000 ? `${(hz / 1000).toFixed(hz >= 10_000 ? 0 : 1)} kHz` : `${Math.round(hz)} Hz`

export const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
