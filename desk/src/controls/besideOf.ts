// Where a panel goes that is about something: beside it, never over it, nor over the strip on top.

const EDGE = 8
const STRIP = 52

/** Upper left corner for a box of this size that is about what stands there. */
export function besideOf(about: DOMRect, wide: number, high: number): { left: number; top: number } {
  const room = { x: window.innerWidth, y: window.innerHeight }
  const within = (at: number, size: number, least: number, most: number): number =>
    Math.max(least, Math.min(at, most - EDGE - size))
  const top = within(about.top, high, STRIP, room.y)
  if (about.left - EDGE - wide >= EDGE) return { left: about.left - EDGE - wide, top }
  if (about.right + EDGE + wide <= room.x - EDGE) return { left: about.right + EDGE, top }
  // No room at either side: below or above it.
  const below = about.bottom + EDGE + high <= room.y - EDGE
  const left = within(about.left, wide, EDGE, room.x)
  return { left, top: below ? about.bottom + EDGE : Math.max(STRIP, about.top - EDGE - high) }
}
