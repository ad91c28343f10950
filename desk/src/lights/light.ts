/**
 * Linear light 0..1 to an sRGB byte for the page (IEC 61966-2-1): only for showing, the lamp itself gets
 * linear values.
 */
export const encode = (v: number): number =>
  Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055))

/** Numbers of the lamps block for each lamp: red, green, blue and intensity, all 0 to 1 and linear. */
const NUMBERS = 4
export const colourOf = (lamps: Float32Array, place: number): [number, number, number] => [
  lamps[place * NUMBERS] ?? 0,
  lamps[place * NUMBERS + 1] ?? 0,
  lamps[place * NUMBERS + 2] ?? 0,
]
export const intensityOf = (lamps: Float32Array, place: number): number => lamps[place * NUMBERS + 3] ?? 0
