// The rig as a drawing: where lamps hang, and how they shine. Used by the desk and by the stand-in, from the same two
// blocks of numbers; nothing here knows where they come from.
import { encode } from './light'
import { barEnds, direction, RADIANS, radiusOf, type Frame, type Hung, type Point } from './geometry'

/** Numbers of a light in its block: red, green, blue, intensity; of a lamp in the other: pan, tilt, width, flashes. */
const LIGHT = 4
const POSE = 4
/** How far a beam is drawn, and how wide what shines towards us, in metres. */
const THROW = 6.5
const GLOW = 1.15
/** With more lamps than this beams are one flat cone each: soft ones cost more than they show. */
const MANY = 80
const DARK = 0.004

export interface Drawn {
  frame: Frame
  lamps: readonly Hung[]
  chosen: ReadonlySet<string>
  /** Under the pointer, or marked by what is wrong with it. */
  hot?: string
  bad?: ReadonlySet<string>
  wall?: CanvasImageSource | null
}

const KEPT = 600
/** Milliseconds of script that the newest drawings took: read by the measurement. */
const spent: number[] = []
if (typeof window !== 'undefined') Object.assign(window, { fulguraSpent: spent })

/** Paint the whole drawing. now: milliseconds, for the slow mark of what flashes. */
export function paintRig(
  context: CanvasRenderingContext2D,
  drawn: Drawn,
  light: Float32Array,
  pose: Float32Array,
  now: number,
): void {
  const begun = performance.now()
  paintAll(context, drawn, light, pose, now)
  spent.push(performance.now() - begun)
  if (spent.length > KEPT) spent.shift()
}

function paintAll(
  context: CanvasRenderingContext2D,
  drawn: Drawn,
  light: Float32Array,
  pose: Float32Array,
  now: number,
): void {
  const { frame, lamps } = drawn
  context.clearRect(0, 0, frame.width, frame.height)
  paintRoom(context, frame, drawn.wall)
  context.globalCompositeOperation = 'lighter'
  const plain = lamps.length > MANY
  lamps.forEach((lamp, row) => paintBeam(context, frame, lamp, row, light, pose, plain))
  context.globalCompositeOperation = 'source-over'
  lamps.forEach((lamp, row) => paintLamp(context, drawn, lamp, row, light, pose, now))
}

function paintRoom(context: CanvasRenderingContext2D, frame: Frame, wall?: CanvasImageSource | null): void {
  const { room } = frame
  const up = frame.view === 'front' ? room.height : room.depth
  const from = frame.toScreen(-room.width / 2, up)
  context.lineWidth = 1
  context.strokeStyle = '#2d2740'
  context.strokeRect(from.x, from.y, room.width * frame.scale, up * frame.scale)
  context.strokeStyle = '#1d1928'
  context.beginPath()
  for (let x = -Math.floor(room.width / 2); x <= room.width / 2; x += 2) {
    const line = frame.toScreen(x, 0)
    context.moveTo(line.x, line.y)
    context.lineTo(line.x, from.y)
  }
  for (let y = 2; y < up; y += 2) {
    const line = frame.toScreen(-room.width / 2, y)
    context.moveTo(line.x, line.y)
    context.lineTo(line.x + room.width * frame.scale, line.y)
  }
  context.stroke()
  if (!room.wall_width) return
  const width = room.wall_width * frame.scale
  const height = frame.view === 'front' ? room.wall_height * frame.scale : 5
  const corner = frame.toScreen(
    room.wall.x - room.wall_width / 2,
    frame.view === 'front' ? room.wall.z + room.wall_height : room.wall.y,
  )
  if (wall && frame.view === 'front') {
    context.globalAlpha = 0.3
    context.drawImage(wall, corner.x, corner.y, width, height)
    context.globalAlpha = 1
  }
  context.strokeStyle = '#6a6183'
  context.strokeRect(corner.x, corner.y, width, height)
}

function colourOf(light: Float32Array, cell: number, strength: number): string {
  const at = cell * LIGHT
  const rgb = [0, 1, 2].map((c) => encode((light[at + c] ?? 0) * Math.min(1, strength)))
  return `rgb(${rgb[0]},${rgb[1]},${rgb[2]})`
}

/** What a lamp throws, as a cone that fades; a bar glows about itself. */
function paintBeam(
  context: CanvasRenderingContext2D,
  frame: Frame,
  lamp: Hung,
  row: number,
  light: Float32Array,
  pose: Float32Array,
  plain: boolean,
): void {
  if (lamp.drawn === 'box' || lamp.cells > 1) return
  const intensity = light[lamp.cell * LIGHT + 3] ?? 0
  if (intensity < DARK) return
  const [pan, tilt, zoom] = [pose[row * POSE]!, pose[row * POSE + 1]!, pose[row * POSE + 2]!]
  const way = frame.across(direction(lamp.place, pan, tilt))
  const from = frame.of(lamp.place)
  const long = Math.hypot(way.x, way.y) * THROW
  const half = Math.tan(((zoom || lamp.beam) / 2) * RADIANS) * THROW * frame.scale
  const to = { x: from.x + way.x * THROW, y: from.y + way.y * THROW }
  const colour = colourOf(light, lamp.cell, intensity)
  const clear = colour.replace('rgb', 'rgba').replace(')', ',0)')
  if (long < half) {
    // It comes towards us, or goes away: a glow about the lamp.
    const wide = GLOW * frame.scale
    if (plain) {
      context.fillStyle = colour
      context.globalAlpha = 0.12
      context.fillRect(from.x - wide / 2, from.y - wide / 2, wide, wide)
      context.globalAlpha = 1
      return
    }
    const glow = context.createRadialGradient(from.x, from.y, 0, from.x, from.y, wide)
    glow.addColorStop(0, colour)
    glow.addColorStop(1, clear)
    context.globalAlpha = 0.55
    context.fillStyle = glow
    context.fillRect(from.x - wide, from.y - wide, 2 * wide, 2 * wide)
    context.globalAlpha = 1
    return
  }
  const side = { x: (-way.y / long) * THROW * half, y: (way.x / long) * THROW * half }
  if (plain) {
    context.fillStyle = colour
    context.globalAlpha = 0.16
    cone(context, from, to, side)
    context.globalAlpha = 1
    return
  }
  const fade = context.createLinearGradient(from.x, from.y, to.x, to.y)
  fade.addColorStop(0, colour)
  fade.addColorStop(1, clear)
  context.fillStyle = fade
  context.globalAlpha = 0.4
  cone(context, from, to, side)
  cone(context, from, to, { x: side.x * 0.55, y: side.y * 0.55 })
  context.globalAlpha = 1
}

function cone(context: CanvasRenderingContext2D, from: Point, to: Point, side: Point): void {
  context.beginPath()
  context.moveTo(from.x, from.y)
  context.lineTo(to.x + side.x, to.y + side.y)
  context.lineTo(to.x - side.x, to.y - side.y)
  context.fill()
}

function outlineOf(chosen: boolean, bad: boolean, hot: boolean): string {
  if (chosen) return '#ffd84d'
  if (bad) return '#ff5c7a'
  return hot ? '#c9adff' : '#6a6183'
}

function paintLamp(
  context: CanvasRenderingContext2D,
  drawn: Drawn,
  lamp: Hung,
  row: number,
  light: Float32Array,
  pose: Float32Array,
  now: number,
): void {
  const { frame } = drawn
  const at = frame.of(lamp.place)
  const radius = radiusOf(frame)
  const chosen = drawn.chosen.has(lamp.id)
  const bad = drawn.bad?.has(lamp.id) ?? false
  context.lineWidth = chosen || drawn.hot === lamp.id ? 2.5 : 1.2
  context.strokeStyle = outlineOf(chosen, bad, drawn.hot === lamp.id)
  if (lamp.cells > 1) {
    paintBar(context, frame, lamp, light)
  } else {
    const intensity = light[lamp.cell * LIGHT + 3] ?? 0
    context.fillStyle = intensity < DARK ? '#14111c' : colourOf(light, lamp.cell, 0.15 + 0.85 * intensity)
    context.beginPath()
    body(context, lamp.drawn, at, radius)
    context.fill()
    context.stroke()
    if (lamp.drawn === 'head') {
      const way = frame.across(direction(lamp.place, pose[row * POSE]!, pose[row * POSE + 1]!))
      const far = Math.hypot(way.x, way.y) || 1
      context.beginPath()
      context.moveTo(at.x, at.y)
      context.lineTo(at.x + (way.x / far) * radius * 1.7, at.y + (way.y / far) * radius * 1.7)
      context.stroke()
    }
  }
  if ((pose[row * POSE + 3] ?? 0) > 0) {
    // It flashes: said by a ring that turns slowly, never by flashing here.
    context.setLineDash([4, 4])
    context.lineDashOffset = (now / 90) % 8
    context.beginPath()
    context.arc(at.x, at.y, radius + 5, 0, 2 * Math.PI)
    context.stroke()
    context.setLineDash([])
  }
  if (chosen || bad || drawn.hot === lamp.id) {
    context.fillStyle = bad ? '#ff5c7a' : '#f1ecf6'
    context.font = "12px 'JetBrains Mono Variable', monospace"
    context.textAlign = 'center'
    context.fillText(String(lamp.number), at.x, at.y - radius - 7)
  }
}

function body(context: CanvasRenderingContext2D, drawn: string, at: Point, radius: number): void {
  if (drawn === 'box') context.rect(at.x - radius, at.y - radius * 0.7, 2 * radius, 1.4 * radius)
  else if (drawn === 'head') {
    context.moveTo(at.x, at.y - radius)
    context.lineTo(at.x + radius, at.y)
    context.lineTo(at.x, at.y + radius)
    context.lineTo(at.x - radius, at.y)
    context.closePath()
  } else context.arc(at.x, at.y, radius * 0.9, 0, 2 * Math.PI)
}

function paintBar(context: CanvasRenderingContext2D, frame: Frame, lamp: Hung, light: Float32Array): void {
  const [from, to] = barEnds(frame, lamp)
  const thick = Math.max(7, 0.14 * frame.scale)
  const outline = context.lineWidth
  context.lineCap = 'butt'
  context.lineWidth = thick + 2 * outline
  context.beginPath()
  context.moveTo(from.x, from.y)
  context.lineTo(to.x, to.y)
  context.stroke()
  context.lineWidth = thick
  // Neighbours of one colour are one stroke: a dark bar is one, whatever its length.
  const colours = Array.from({ length: lamp.cells }, (_, pixel) => {
    const intensity = light[(lamp.cell + pixel) * LIGHT + 3] ?? 0
    return intensity < DARK ? '#14111c' : colourOf(light, lamp.cell + pixel, 0.1 + 0.9 * intensity)
  })
  let first = 0
  for (let pixel = 1; pixel <= lamp.cells; pixel++) {
    if (pixel < lamp.cells && colours[pixel] === colours[first]) continue
    const [a, b] = [first / lamp.cells, pixel / lamp.cells]
    context.strokeStyle = colours[first]!
    context.beginPath()
    context.moveTo(from.x + (to.x - from.x) * a, from.y + (to.y - from.y) * a)
    context.lineTo(from.x + (to.x - from.x) * b, from.y + (to.y - from.y) * b)
    context.stroke()
    first = pixel
  }
}
