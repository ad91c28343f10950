/**
 * Linear light 0..1 to an sRGB byte for the page (IEC 61966-2-1): only for showing, the lamp itself gets
 * linear values.
 */
export const encode = (v: number): number =>
  Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055))

/** Numbers of the lamps block for each lamp: red, green and blue of its colour, and its intensity; 0 to 1, linear. */
const NUMBERS = 4
/** The light that a lamp gives: red, green and blue, linear, 0 to 1. */
export function lightOf(lamps: Float32Array, index: number): [number, number, number] {
  const [red, green, blue, intensity] = lamps.subarray(index * NUMBERS, (index + 1) * NUMBERS)
  return [red, green, blue].map((channel) => (channel ?? 0) * (intensity ?? 0)) as [number, number, number]
}
