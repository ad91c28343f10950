/** Linear light 0..1 to an sRGB byte for the page (IEC 61966-2-1): only for showing, the lamp itself gets linear values. */
export const encode = (v: number): number =>
  Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055))
