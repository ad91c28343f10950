// Which size a picture is drawn in: smaller while it does not keep up, larger again once it did for long.
const STEPS = [1, 3 / 4, 1 / 2, 3 / 8, 1 / 4, 1 / 6]
const LEAST_WIDTH = 300
const SLOW = 2 / 3
const QUICK = 0.95
const STEADY = 4
const AGAIN_MS = 30_000

export class Sizes {
  private step = 0
  private slow = 0
  private quick = 0
  /** When which size was too large. */
  private readonly tooLarge = new Map<number, number>()

  /** whole: the size that is wanted; first: it begins no wider than this. */
  constructor(
    private readonly whole: () => [number, number],
    first = Infinity,
  ) {
    while (this.at(this.step)[0] > first && this.step < STEPS.length - 1) this.step++
  }

  get now(): [number, number] {
    return this.at(this.step)
  }

  /** Whether there is none smaller. */
  get least(): boolean {
    return this.step + 1 >= STEPS.length || this.at(this.step + 1)[0] < LEAST_WIDTH
  }

  /** What was drawn of all that was wanted, as a share; whether another size is to be taken. */
  judge(share: number): boolean {
    // Twice in a row too slow: one size down. A single hiccup changes nothing.
    this.slow = share < SLOW ? this.slow + 1 : 0
    this.quick = share >= QUICK ? this.quick + 1 : 0
    if (this.slow >= 2 && this.step + 1 < STEPS.length && this.at(this.step + 1)[0] >= LEAST_WIDTH) {
      this.tooLarge.set(this.step, performance.now())
      return this.take(this.step + 1)
    }
    // It kept up for long: one size up, but not soon to one that was too large.
    const before = this.tooLarge.get(this.step - 1) ?? -AGAIN_MS
    if (this.quick >= STEADY && this.step > 0 && performance.now() - before > AGAIN_MS)
      return this.take(this.step - 1)
    return false
  }

  private take(step: number): boolean {
    this.step = step
    this.slow = this.quick = 0
    return true
  }

  private at(step: number): [number, number] {
    return this.whole().map((side) => Math.round(side * STEPS[step]!)) as [number, number]
  }
}
