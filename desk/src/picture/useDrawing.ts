// Draws the plan that the server sends onto a canvas, in a size that keeps up; never less of its content.
import { onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue'
import type { Plan } from '../api/api'
import { plan as shown } from '../live/live'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { Executor } from './executor'
import { Sizes } from './sizes'

export interface Drawing {
  /** Pictures a second that were drawn, and those that came and were not, since the last time. */
  perSecond: number
  dropped: number
  width: number
  height: number
  /** Share of the picture that the guard holds back, and changes that it let through in the last second. */
  held: number
  changes: number
  number: number
}
type Told = Pick<Drawing, 'held' | 'changes'>
interface Options {
  size: () => [number, number]
  /** It begins no wider than this. */ first?: number
  /** Draws one frame in so many. */
  oneIn?: () => number
  alpha?: () => boolean
  /** Whether what is measured also says what the guard holds back. */
  guard?: boolean
  measured?: (drawing: Drawing) => void
  /** What is drawn, where that is not what plays or what this page is of. */
  plan?: Ref<Plan | null>
}

const PATIENCE_MS = 1500
const ASKED_EVERY = 20

/** What was drawn of late. */
class Count {
  private since = 0
  private drawn = 0
  private dropped = 0
  private told: Told = { held: 0, changes: 0 }
  private seen = -1

  /** Engine frames since the last that was drawn; as many as are waited for when the engine began anew. */
  gone(number: number, every: number): number {
    return number < this.seen ? every : number - this.seen
  }

  /** One more; what was measured, once some time went by. */
  add(number: number, every: number, ask: () => Told): Omit<Drawing, 'width' | 'height'> | null {
    if (this.seen >= 0) this.dropped += Math.max(0, Math.floor(this.gone(number, every) / every) - 1)
    this.seen = number
    if (this.drawn++ % ASKED_EVERY === 0) this.told = ask()
    const now = performance.now()
    if (now - this.since < PATIENCE_MS) return null
    const perSecond = (this.drawn * 1000) / (now - this.since)
    const told = this.since ? { perSecond, dropped: this.dropped, ...this.told, number } : null
    this.since = now
    this.drawn = this.dropped = 0
    return told
  }
}

/** The guard says of each piece of the picture how often it changed lately, and which share of it is held. */
function guarded(executor: Executor, plan: Plan): Told {
  if (!plan.tally) return { held: 0, changes: 0 }
  const values = executor.values(plan.tally)
  let sum = 0
  let changes = 0
  for (let i = 0; i < values.length; i += 4) {
    changes = Math.max(changes, values[i + 1]!)
    sum += values[i + 2]!
  }
  return { held: (sum * 4) / values.length, changes }
}

/** Blocks of the frame that a plan reads. */
const blocksOf = (plan: Plan | null): number[] => [
  plan?.uniforms ?? Block.uniforms,
  plan?.standing ?? Block.picture,
  Block.pictures,
  ...[...(plan?.data ?? []), ...(plan?.clips ?? [])].map((binding) => binding.block),
]

export function useDrawing(canvas: Ref<HTMLCanvasElement | undefined>, options: Options) {
  const plan = options.plan ?? shown
  const fault = ref('')
  /** That fewer are drawn than there are. */
  const fewer = ref('')
  /** This browser cannot draw it: pictures drawn in Python are shown instead. */
  const drawnElsewhere = ref(false)
  const sizes = new Sizes(options.size, options.first)
  const count = new Count()
  let executor: Executor | null = null
  const resize = (): void => executor?.resize(...sizes.now)

  onMounted(() => {
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
      executor = new Executor(canvas.value!, options.alpha?.() ?? false)
    } catch {
      drawnElsewhere.value = true
      return
    }
    load()
  }

  function load(): void {
    // One that was lost begins anew when it is there again; till then nothing can be said of it.
    if (!executor || executor.lost) return
    try {
      resize()
      if (plan.value) executor.load(plan.value)
      fault.value = executor.fault
    } catch (error) {
      fault.value = `This look cannot be drawn here: ${error instanceof Error ? error.message : error}`
    }
  }
  watch(plan, load)
  watch(options.size, resize)

  function paint(packet: Packet): void {
    const every = options.oneIn?.() ?? 1
    if (!executor || count.gone(packet.number, every) < every || !executor.draw(packet)) return
    // Reading it waits for the picture: only where somebody is told.
    const guard = () => (options.guard ? guarded(executor!, plan.value!) : { held: 0, changes: 0 })
    const told = count.add(packet.number, every, guard)
    if (!told) return
    const [width, height] = sizes.now
    options.measured?.({ ...told, width, height })
    const kept = (told.perSecond * every) / 60
    // Smaller first: only what is smallest already is thinned out.
    if (sizes.judge(kept)) resize()
    else if (sizes.least || kept > 0.5) executor.thin(kept)
    const [some, all] = executor.thinned
    fewer.value = some < all ? `Too many for this machine: ${some} of ${all} solids are drawn here.` : ''
  }
  useFrames(() => blocksOf(plan.value), { paint })
  onBeforeUnmount(() => executor?.dispose())
  return { fault, fewer, drawnElsewhere }
}
