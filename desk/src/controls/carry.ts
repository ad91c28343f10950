// A signal or a parameter carried by hand: a signal onto a parameter or onto a route, a parameter onto a route.
import { shallowRef } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'

export interface Carried {
  /** What is carried: the one or the other. */
  signal: string
  target: string
  name: string
  colour: string
  x: number
  y: number
  /** Address of the parameter under the pointer, or of several. */
  over: string
  /** Id of the route under the pointer. */
  route: string
}
export const carried = shallowRef<Carried | null>(null)
const FAR = 6

/** Begin at a pointerdown on something that shows a signal. Only a pull makes it a carry; a click stays one. */
export function pick(event: PointerEvent, signal: string): void {
  const show = useShow()
  const info = show.signals.get(signal)
  if (info) carry(event, { signal, target: '', name: info.title, colour: show.colour(signal) })
}
/** Begin at a pointerdown on a parameter's name. */
export function pickParameter(event: PointerEvent, target: string): void {
  carry(event, { signal: '', target, name: useShow().targetName(target), colour: 'var(--hand)' })
}

/** What a drop does here: a signal moves a parameter, or is what a route hears; a parameter joins a route. */
function drop(held: Carried): Promise<unknown> | undefined {
  if (held.signal && held.over) return api.addRoute(held.signal, held.over.split(' '))
  if (held.signal && held.route) return api.exchange(held.route, { signal: held.signal })
  if (held.target && held.route) return api.leadOn(held.route, [held.target])
  return undefined
}

function carry(event: PointerEvent, what: Pick<Carried, 'signal' | 'target' | 'name' | 'colour'>): void {
  if (event.button !== 0) return
  const show = useShow()
  const from = { x: event.clientX, y: event.clientY }
  const move = (now: PointerEvent): void => {
    if (!carried.value && Math.hypot(now.clientX - from.x, now.clientY - from.y) < FAR) return
    const under = document.elementFromPoint(now.clientX, now.clientY)
    document.body.dataset.carrying = what.signal || what.target
    carried.value = {
      ...what,
      x: now.clientX,
      y: now.clientY,
      over: what.signal ? (under?.closest<HTMLElement>('[data-target]')?.dataset.target ?? '') : '',
      route: under?.closest<HTMLElement>('[data-route]')?.dataset.route ?? '',
    }
  }
  const end = (): void => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
    window.removeEventListener('pointercancel', end)
    carried.value = null
    delete document.body.dataset.carrying
  }
  const up = (): void => {
    const held = carried.value
    end()
    if (!held) return
    // The click that follows a pull is none.
    window.addEventListener(
      'click',
      (click) => {
        click.stopPropagation()
        click.preventDefault()
      },
      { capture: true, once: true },
    )
    drop(held)?.catch(show.complain)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', up)
  window.addEventListener('pointercancel', end)
}
