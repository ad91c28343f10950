// The score's picture: a roll that is inked once and then only moved, and the marks above it.
import { Roll } from '../../live/roll'
import { Status } from '../../live/wire'
import { pitchRgb, tokens } from '../../tokens'
import { SECONDS, type Beat, type History } from './history'
import { BEATS, type Lane, type Plot } from './lanes'

/** The quiet part of a spectrum stays dark. */
const QUIET = 0.28
const PREDICTED_BEATS = 4

export class Drawing {
  private roll: Roll | null = null
  private drawnAs = ''
  private inked = 0
  private readonly strip: OffscreenCanvas
  private readonly stripInk: OffscreenCanvasRenderingContext2D
  private readonly cells: ImageData
  private readonly colours: [number, number, number][]

  constructor(
    private readonly history: History,
    private readonly plot: Plot,
    /** How sure the beat must be to be drawn as one. */
    private readonly confident: () => number,
  ) {
    const { rows } = history
    this.strip = new OffscreenCanvas(1, rows)
    this.stripInk = this.strip.getContext('2d')!
    this.cells = this.stripInk.createImageData(1, rows)
    this.colours = Array.from({ length: rows }, (_, row) => pitchRgb(row / (rows - 1)))
  }

  forget(): void {
    this.roll = null
  }

  paint(c: HTMLCanvasElement, lanes: Lane[], height: number, now: number): void {
    const { plotWidth, perSecond, scoreHeight, lane } = this.plot
    const ratio = Math.min(2, devicePixelRatio)
    const [wide, high] = [Math.round(plotWidth.value * ratio), Math.round(height * ratio)]
    if (c.width !== wide || c.height !== high) {
      c.width = wide
      c.height = high
    }
    const g = c.getContext('2d', { alpha: false })!
    g.setTransform(1, 0, 0, 1, 0, 0)
    g.fillStyle = tokens.ground
    g.fillRect(0, 0, wide, high)
    const roll = this.ink(lanes, ratio)
    const nowX = Math.round(SECONDS * perSecond.value * ratio)
    roll.copy(g, nowX)
    g.setTransform(ratio, 0, 0, ratio, 0, 0)
    // Marks stand on the same whole pixels as the roll: they must not tremble against it.
    const xOf = (t: number): number => (nowX + roll.at(t) - roll.at(now)) / ratio
    lanes.forEach((row, i) => this.drawMarks(g, row, scoreHeight.value + i * lane.value, nowX / ratio, xOf))
    this.drawBeats(g, scoreHeight.value + lanes.length * lane.value, now, xOf)
    g.fillStyle = tokens.text
    g.fillRect(nowX / ratio, 0, 1.5, height)
  }

  /**
   * Ink what has been heard since the last frame; all that is kept, when the plot or its lanes are others
   * than before.
   */
  private ink(lanes: Lane[], ratio: number): Roll {
    const { history, plot } = this
    const perSecond = plot.perSecond.value * ratio
    const sizes = [perSecond, ratio, plot.scoreHeight.value, plot.lane.value, history.stride]
    const as = [...sizes, ...lanes.map((lane) => `${lane.index}${lane.colour}`)].join(' ')
    if (!this.roll || as !== this.drawnAs) {
      const height = Math.round((plot.scoreHeight.value + lanes.length * plot.lane.value) * ratio)
      this.roll = new Roll(Math.ceil(SECONDS * perSecond), height, perSecond, tokens.ground)
      this.drawnAs = as
      this.inked = 0
    }
    const { roll } = this
    const oldest = history.written - history.columns
    for (this.inked = Math.max(this.inked, oldest); this.inked < history.written; this.inked++) {
      const at = this.inked % history.columns
      const before = this.inked > 0 && this.inked > oldest ? (this.inked - 1) % history.columns : at
      roll.add(history.times[at]!, (x, wide) => {
        this.inkSpectrum(roll, at, x, wide, ratio)
        this.inkLevels(roll.ink, lanes, [before, at], x, wide, ratio)
      })
    }
    return roll
  }

  private inkSpectrum(roll: Roll, at: number, x: number, wide: number, ratio: number): void {
    const { rows, spectra } = this.history
    const { data } = this.cells
    for (let row = 0; row < rows; row++) {
      // Loud cells run up to white, so that height is never hue alone.
      const level = Math.max(0, (spectra[at * rows + row]! / 255 - QUIET) / (1 - QUIET))
      const light = level ** 1.7
      const white = Math.max(0, level - 0.75) * 1.6
      const cell = (rows - 1 - row) * 4
      for (let c = 0; c < 3; c++)
        data[cell + c] = Math.min(255, this.colours[row]![c]! * light * 1.15 + 255 * white * light)
      data[cell + 3] = 255
    }
    this.stripInk.putImageData(this.cells, 0, 0)
    // The ring still holds what was there eight seconds ago.
    const g = roll.ink
    g.fillStyle = tokens.ground
    g.fillRect(x, 0, wide, roll.height)
    g.drawImage(this.strip, 0, 0, 1, rows, x, 0, wide, this.plot.scoreHeight.value * ratio)
  }

  private inkLevels(
    g: OffscreenCanvasRenderingContext2D,
    lanes: Lane[],
    [before, at]: [number, number],
    x: number,
    wide: number,
    ratio: number,
  ): void {
    const { levels, stride } = this.history
    const lane = this.plot.lane.value
    lanes.forEach((row, i) => {
      const top = (this.plot.scoreHeight.value + i * lane) * ratio
      g.fillStyle = tokens.edge
      g.fillRect(x, Math.round(top), wide, ratio)
      if (row.index < 0) return
      const floor = top + (lane - 4) * ratio
      const y = (column: number): number =>
        floor - Math.sqrt(levels[column * stride + row.index]!) * (lane - 20) * ratio
      const [from, to] = [y(before), y(at)]
      g.fillStyle = row.colour
      g.globalAlpha = 0.28
      g.fillRect(x, to, wide, floor - to)
      g.globalAlpha = 1
      // The curve itself joins the level before to this row.
      g.fillRect(x, Math.min(from, to) - 0.75 * ratio, wide, Math.abs(from - to) + 1.5 * ratio)
    })
  }

  private drawMarks(
    g: CanvasRenderingContext2D,
    one: Lane,
    top: number,
    nowX: number,
    xOf: (t: number) => number,
  ): void {
    for (const mark of this.history.marks) {
      const which = one.detectors.findIndex((detector) => detector.index === mark.detector)
      const x = xOf(mark.t)
      if (which < 0 || x < 0 || x > nowX) continue
      // A second detector in the same lane stands on its own line, so that both can be read.
      const line = top + 4 + which * 9
      const size = mark.reason === 0 ? 4 + 3 * mark.strength : 3.5
      g.beginPath()
      g.moveTo(x - size, line)
      g.lineTo(x + size, line)
      g.lineTo(x, line + size * 1.5)
      g.closePath()
      if (mark.reason === 0) {
        g.fillStyle = one.colour
        g.fill()
      } else {
        g.strokeStyle = tokens.edgeStrong
        g.stroke()
      }
    }
  }

  private drawBeats(g: CanvasRenderingContext2D, top: number, now: number, xOf: (t: number) => number): void {
    const { beats, status } = this.history
    const sure = (status?.[Status.confidence] ?? 0) > this.confident()
    const heard = sure ? 1 : 0.35
    const bar = ({ t, position }: Beat, light: number): void => {
      const x = xOf(t)
      if (x < 0 || x > this.plot.plotWidth.value) return
      const first = position === 1
      g.globalAlpha = light
      g.fillStyle = tokens.bolt
      g.fillRect(x - (first ? 2 : 0.75), top + (first ? 6 : 18), first ? 4 : 1.5, BEATS - (first ? 10 : 26))
      g.globalAlpha = 1
    }
    for (const beat of beats) bar(beat, beat.t > now ? 0.5 : heard)
    const last = beats[beats.length - 1]
    if (!last || !status || !sure) return
    const inBar = status[Status.beatsABar] || 4
    for (let n = 1; n <= PREDICTED_BEATS; n++)
      bar({ t: last.t + n * status[Status.interval]!, position: ((last.position - 1 + n) % inBar) + 1 }, 0.5)
  }
}
