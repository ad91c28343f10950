// Where lamps are on the drawing of the rig: rooms, views, and what is under a point. Shared by the desk and the
// stand-in.

export type View = 'front' | 'top'
export interface Place {
  x: number
  y: number
  z: number
  turn: number
  lean: number
  roll: number
}
export interface Room {
  width: number
  depth: number
  height: number
  wall: Place
  wall_width: number
  wall_height: number
}
/** A lamp as it is drawn. cell: its first light in the block; cells: how many it has. */
export interface Hung {
  id: string
  number: number
  name: string
  place: Place
  drawn: string
  beam: number
  cell: number
  cells: number
}
export interface Point {
  x: number
  y: number
}
type Vector = readonly [number, number, number]

export const RADIANS = Math.PI / 180
/** Metres from one pixel of a bar to the next. */
const PIXEL = 0.045
const MARGIN = 26

/** Turned by where the lamp hangs: a vector of its own into one of the room. */
function inRoom([x, y, z]: Vector, place: Place): Vector {
  const lean = place.lean * RADIANS
  const turn = place.turn * RADIANS
  const [ly, lz] = [y * Math.cos(lean) + z * Math.sin(lean), z * Math.cos(lean) - y * Math.sin(lean)]
  return [x * Math.cos(turn) - ly * Math.sin(turn), x * Math.sin(turn) + ly * Math.cos(turn), lz]
}

/** Where the light goes, pan and tilt in degrees. */
export function direction(place: Place, pan: number, tilt: number): Vector {
  const [p, t] = [pan * RADIANS, tilt * RADIANS]
  return inRoom([Math.sin(t) * Math.sin(p), -Math.sin(t) * Math.cos(p), -Math.cos(t)], place)
}

/** Which way a bar of pixels lies. */
export function along(place: Place): Vector {
  const roll = place.roll * RADIANS
  return inRoom([Math.cos(roll), Math.sin(roll), 0], place)
}

/** Room and screen: metres of the view to pixels and back. */
export class Frame {
  readonly scale: number
  private readonly left: number
  private readonly bottom: number
  constructor(
    readonly room: Room,
    readonly view: View,
    readonly width: number,
    readonly height: number,
  ) {
    const up = view === 'front' ? room.height : room.depth
    this.scale = Math.min((width - 2 * MARGIN) / room.width, (height - 2 * MARGIN) / up)
    this.left = width / 2
    this.bottom = height / 2 + (up * this.scale) / 2
  }

  up(place: { y: number; z: number }): number {
    return this.view === 'front' ? place.z : place.y
  }

  toScreen(x: number, up: number): Point {
    return { x: this.left + x * this.scale, y: this.bottom - up * this.scale }
  }

  toRoom(point: Point): { x: number; up: number } {
    return { x: (point.x - this.left) / this.scale, up: (this.bottom - point.y) / this.scale }
  }

  of(place: Place): Point {
    return this.toScreen(place.x, this.up(place))
  }

  /** A direction of the room on the screen, in pixels a metre; what goes into the picture is short. */
  across([x, y, z]: Vector): Point {
    return { x: x * this.scale, y: -(this.view === 'front' ? z : y) * this.scale }
  }
}

/** Size of a lamp on the screen, from its middle. */
export function radiusOf(frame: Frame): number {
  return Math.max(6, Math.min(13, 0.24 * frame.scale))
}

/** The ends of a bar on the screen. */
export function barEnds(frame: Frame, lamp: Hung): [Point, Point] {
  const at = frame.of(lamp.place)
  const way = frame.across(along(lamp.place))
  const half = Math.min(3, (lamp.cells * PIXEL) / 2)
  return [
    { x: at.x - way.x * half, y: at.y - way.y * half },
    { x: at.x + way.x * half, y: at.y + way.y * half },
  ]
}

/** Which lamp is under a point: the nearest within reach. */
export function lampAt(frame: Frame, lamps: readonly Hung[], point: Point): Hung | undefined {
  const reach = Math.max(16, radiusOf(frame) + 5)
  let best: Hung | undefined
  let least = reach
  for (const lamp of lamps) {
    const far = lamp.cells > 1 ? farFromBar(frame, lamp, point) : farFrom(frame.of(lamp.place), point)
    if (far < least) [best, least] = [lamp, far]
  }
  return best
}

const farFrom = (a: Point, b: Point): number => Math.hypot(a.x - b.x, a.y - b.y)

function farFromBar(frame: Frame, lamp: Hung, point: Point): number {
  const [from, to] = barEnds(frame, lamp)
  const [dx, dy] = [to.x - from.x, to.y - from.y]
  const square = dx * dx + dy * dy || 1
  const share = Math.min(1, Math.max(0, ((point.x - from.x) * dx + (point.y - from.y) * dy) / square))
  return farFrom({ x: from.x + share * dx, y: from.y + share * dy }, point)
}

/** Lamps whose middle is within a box of the screen, from left to right. */
export function lampsWithin(frame: Frame, lamps: readonly Hung[], a: Point, b: Point): Hung[] {
  const [left, right] = [Math.min(a.x, b.x), Math.max(a.x, b.x)]
  const [top, bottom] = [Math.min(a.y, b.y), Math.max(a.y, b.y)]
  const inside = (at: Point): boolean => at.x >= left && at.x <= right && at.y >= top && at.y <= bottom
  return lamps.filter((lamp) => inside(frame.of(lamp.place))).sort((l, r) => l.place.x - r.place.x)
}
