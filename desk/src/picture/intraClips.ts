// Pictures of clips, fetched and unpacked a little ahead of when they are shown. Which one is shown, Python
// says.

/** How many pictures ahead are fetched, at once, and kept. */
const AHEAD = 6
const AT_ONCE = 3
const KEPT = 24
/** How long nothing is sent for after something could not be had. */
const PATIENCE_MS = 1000

export class IntraClip {
  private readonly kept = new Map<number, ImageBitmap>()
  private readonly coming = new Set<number>()
  private last = 0
  private way = 1
  private closed = false
  private failedAt = -PATIENCE_MS

  constructor(
    private readonly key: string,
    private readonly frames: number,
  ) {}

  /**
   * The picture of that number if it is there; and those after it are sent for, in the direction in which
   * numbers go.
   */
  picture(number: number): ImageBitmap | null {
    if (number !== this.last) {
      this.way = number - this.last
      this.last = number
    }
    // A jump says nothing about what comes next.
    if (Math.abs(this.way) > AHEAD) this.way = Math.sign(this.way)
    const found = this.kept.get(number) ?? null
    if (found) {
      this.kept.delete(number)
      this.kept.set(number, found)
    } // The newest used stays longest.
    for (let ahead = 0; ahead <= AHEAD; ahead++) this.fetch(this.within(number + ahead * this.way))
    return found
  }

  /** Resolves when the picture of that number is there, or cannot be had. */
  async ready(number: number): Promise<void> {
    await this.load(number)
  }

  close(): void {
    this.closed = true
    for (const one of this.kept.values()) one.close()
    this.kept.clear()
  }

  private within(number: number): number {
    return ((number % this.frames) + this.frames) % this.frames
  }

  private fetch(number: number): void {
    if (
      this.kept.has(number) ||
      this.coming.has(number) ||
      this.coming.size >= AT_ONCE ||
      performance.now() - this.failedAt < PATIENCE_MS
    )
      return
    void this.load(number)
  }

  private async load(number: number): Promise<void> {
    if (this.kept.has(number)) return
    this.coming.add(number)
    try {
      const answer = await fetch(`/api/v1/clips/${this.key}/${number}`)
      if (!answer.ok) throw new Error(String(answer.status))
      // As they are: the colours are multiplied by alpha already, and sRGB is what the texture says that they
      // are.
      const picture = await createImageBitmap(await answer.blob(), {
        imageOrientation: 'flipY',
        premultiplyAlpha: 'none',
        colorSpaceConversion: 'none',
      })
      if (this.closed) {
        picture.close()
        return
      }
      this.kept.get(number)?.close()
      this.kept.set(number, picture)
      while (this.kept.size > KEPT) {
        const [oldest, picture] = this.kept.entries().next().value!
        picture.close()
        this.kept.delete(oldest)
      }
    } catch {
      this.failedAt = performance.now()
    } finally {
      this.coming.delete(number)
    }
  }
}
