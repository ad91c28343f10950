// Where handles stand on the screen: the map that four corners make, and its way back. What is drawn is worked out in
// Python (core/show/walls.py); this only places what a hand takes hold of.
export type Pair = [number, number]

/** The nine numbers of the map of the unit square onto four corners, clockwise from the top left. */
export function homography(corners: readonly (readonly number[])[]): number[] {
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = corners as unknown as [Pair, Pair, Pair, Pair]
  const [dx1, dx2, dx3] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3]
  const [dy1, dy2, dy3] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3]
  const under = dx1 * dy2 - dx2 * dy1
  const g = (dx3 * dy2 - dx2 * dy3) / under
  const h = (dx1 * dy3 - dx3 * dy1) / under
  return [x1 - x0 + g * x1, x3 - x0 + h * x3, x0, y1 - y0 + g * y1, y3 - y0 + h * y3, y0, g, h, 1]
}

export function through(m: readonly number[], [x, y]: readonly number[]): Pair {
  const w = m[6]! * x! + m[7]! * y! + m[8]!
  return [(m[0]! * x! + m[1]! * y! + m[2]!) / w, (m[3]! * x! + m[4]! * y! + m[5]!) / w]
}

export function back(m: readonly number[]): number[] {
  const [a, b, c, d, e, f, g, h, i] = m as [
    ...[number, number, number],
    ...[number, number, number],
    ...[number, number, number],
  ]
  return [
    ...[e * i - f * h, c * h - b * i, b * f - c * e],
    ...[f * g - d * i, a * i - c * g, c * d - a * f],
    ...[d * h - e * g, b * g - a * h, a * e - b * d],
  ]
}
