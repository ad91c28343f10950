// A picture of the last seconds that is drawn once and then only moved: what is new is inked at the head of a
// ring as wide as
// the plot, and a frame is two plain copies of it. Places are whole pixels of the screen, so that nothing is
// resampled.

export class Roll {
  private readonly canvas: OffscreenCanvas
  readonly ink: OffscreenCanvasRenderingContext2D
  private inked = -Infinity

  /** width, height: pixels of the screen; perSecond: pixels that a second takes. */
  constructor(
    readonly width: number,
    readonly height: number,
    readonly perSecond: number,
    ground: string,
  ) {
    this.canvas = new OffscreenCanvas(width, height)
    this.ink = this.canvas.getContext('2d', { alpha: false })!
    this.ink.fillStyle = ground
    this.ink.fillRect(0, 0, width, height)
  }

  /** Pixel that a stream time falls on, counted from the stream's beginning. */
  at(t: number): number {
    return Math.round(t * this.perSecond)
  }

  /** Ink what lies between the last time and t, which is later: draw(x, width) once, twice where the ring
   * begins anew, or not
   * at all while both fall on the same pixel. */
  add(t: number, draw: (x: number, width: number) => void): void {
    const end = this.at(t)
    const start = Number.isFinite(this.inked) ? Math.max(this.inked, end - this.width) : end - 1
    if (end <= start) return
    this.inked = end
    const x = start % this.width
    const first = Math.min(end - start, this.width - x)
    draw(x, first)
    if (end - start > first) draw(0, end - start - first)
  }

  /** Copy it so that the last inked pixel ends at x of the canvas; g is in pixels of the screen. */
  copy(g: CanvasRenderingContext2D, x: number): void {
    if (!Number.isFinite(this.inked)) return
    const head = this.inked % this.width
    const older = this.width - head
    g.drawImage(this.canvas, head, 0, older, this.height, x - this.width, 0, older, this.height)
    if (head) g.drawImage(this.canvas, 0, 0, head, this.height, x - head, 0, head, this.height)
  }
}
