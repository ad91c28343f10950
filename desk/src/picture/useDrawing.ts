// Draws the plan that the server sends onto a canvas, in a size that keeps up; never less of its content.
import { onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue'
import type { Plan } from '../api/api'
import { plan as shown } from '../live/live'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { Executor } from './executor'

export interface Drawing {
  /** Pictures a second that were drawn, and those that came and were not, since the last time. */
  perSecond: number
  dropped: number
  width: number
  height: number
  /** Share of the picture that the guard holds back. */
  held: number
  number: number
}

const STEPS = [1, 3 / 4, 1 / 2, 3 / 8, 1 / 4, 1 / 6]
const LEAST_WIDTH = 300
const PATIENCE_MS = 1500
const SLOW = 2 / 3
const QUICK = 0.95
const STEADY = 4
const AGAIN_MS = 30_000
const HELD_EVERY = 20

export function useDrawing(
  canvas: Ref<HTMLCanvasElement | undefined>,
  options: {
    size: () => [number, number]
    /** It begins no wider than this. */ first?: number
    /** Draws one frame in so many. */ oneIn?: () => number
    alpha?: () => boolean
    measured?: (drawing: Drawing) => void
    /** What is drawn, where that is not what plays or what this page is of. */
    plan?: Ref<Plan | null>
  },
) {
  const plan = options.plan ?? shown
  const fault = ref('')
  /** This browser cannot draw it: pictures drawn in Python are shown instead. */
  const drawnElsewhere = ref(false)
  let executor: Executor | null = null
  let step = 0
  let since = 0
  let drawn = 0
  let dropped = 0
  let slow = 0
  let quick = 0
  /** The size that it began with, and when which was too large. */
  let first = 0
  const tooLarge = new Map<number, number>()
  let held = 0
  let seen = -1

  const sizeAt = (at: number): [number, number] =>
    options.size().map((side) => Math.round(side * STEPS[at]!)) as [number, number]

  function choose(next: number): void {
    step = next
    executor?.resize(...sizeAt(step))
  }

  onMounted(() => {
    while (options.first && sizeAt(step)[0] > options.first && step < STEPS.length - 1) step++
    first = step
    start()
    canvas.value!.addEventListener('webglcontextlost', (event) => {
      event.preventDefault()
      executor?.release()
      executor = null
    })
    canvas.value!.addEventListener('webglcontextrestored', start)
  })

  function start(): void {
    try {
      try {
        executor = new Executor(canvas.value!, options.alpha?.() ?? false)
      } catch {
        drawnElsewhere.value = true
        return
      }
      choose(step)
      load()
    } catch (error) {
      fault.value = String(error instanceof Error ? error.message : error)
    }
  }

  function load(): void {
    if (!plan.value || !executor) return
    try {
      executor.load(plan.value)
      fault.value = executor.fault
    } catch (error) {
      fault.value = `This look cannot be drawn here: ${error}`
    }
  }
  watch(plan, load)
  watch(options.size, () => choose(step))

  function paint(packet: Packet): void {
    const every = options.oneIn?.() ?? 1
    // The engine that begins anew counts from nothing again.
    const gone = packet.number < seen ? every : packet.number - seen
    if (gone < every || !executor?.draw(packet)) return
    if (seen >= 0) dropped += Math.max(0, Math.floor(gone / every) - 1)
    seen = packet.number
    if (drawn++ % HELD_EVERY === 0) held = heldNow()
    const now = performance.now()
    if (now - since < PATIENCE_MS) return
    if (since) measure((drawn * 1000) / (now - since), every, packet.number)
    since = now
    drawn = dropped = 0
  }

  function measure(perSecond: number, every: number, number: number): void {
    const [width, height] = sizeAt(step)
    options.measured?.({ perSecond, dropped, width, height, held, number })
    // Twice in a row too slow: one size down. A single hiccup changes nothing.
    slow = perSecond * every < 60 * SLOW ? slow + 1 : 0
    if (slow >= 2 && step + 1 < STEPS.length && sizeAt(step + 1)[0] >= LEAST_WIDTH) {
      slow = quick = 0
      tooLarge.set(step, performance.now())
      choose(step + 1)
      return
    }
    // It kept up for long: one size up, but not soon to one that was too large.
    quick = perSecond * every >= 60 * QUICK ? quick + 1 : 0
    const before = tooLarge.get(step - 1)
    if (quick >= STEADY && step > first && (before === undefined || performance.now() - before > AGAIN_MS)) {
      quick = 0
      choose(step - 1)
    }
  }

  /** The guard says of each piece of the picture which share it keeps: its mean. */
  function heldNow(): number {
    const tally = plan.value?.tally
    if (!tally || !executor) return 0
    const values = executor.values(tally)
    let sum = 0
    for (let i = 3; i < values.length; i += 4) sum += values[i]!
    return (sum * 4) / values.length
  }

  useFrames(
    () => [
      plan.value?.uniforms ?? Block.uniforms,
      plan.value?.standing ?? Block.picture,
      Block.pictures,
      ...[...(plan.value?.data ?? []), ...(plan.value?.clips ?? [])].map((binding) => binding.block),
    ],
    { paint },
  )
  onBeforeUnmount(() => executor?.dispose())
  return { fault, drawnElsewhere }
}
