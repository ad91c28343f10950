/** A number in as many digits as its range calls for. */
export function digits(value: number, low: number, high: number): string {
  const span = Math.abs(high - low)
  return value.toFixed(span > 400 ? 0 : span > 20 ? 1 : span > 0.5 ? 2 : 3)
}

export const hertz = (hz: number): string =>
  hz >= 1000 ? `${(hz / 1000).toFixed(hz >= 10_000 ? 0 : 1)} kHz` : `${Math.round(hz)} Hz`

export const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
