// A signal carried by hand: picked up anywhere it is shown, dropped on any parameter.
import { shallowRef } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'

export interface Carried {
  signal: string
  name: string
  colour: string
  x: number
  y: number
  over: string
}
export const carried = shallowRef<Carried | null>(null)
const FAR = 6

/**
 * Begin at a pointerdown on something that shows a signal. Only a pull makes it a carry; a click stays a
 * click.
 */
export function pick(event: PointerEvent, signal: string): void {
  const show = useShow()
  const info = show.signals.get(signal)
  if (!info || event.button !== 0) return
  const from = { x: event.clientX, y: event.clientY }
  const move = (now: PointerEvent): void => {
    if (!carried.value && Math.hypot(now.clientX - from.x, now.clientY - from.y) < FAR) return
    const under = document.elementFromPoint(now.clientX, now.clientY)?.closest<HTMLElement>('[data-target]')
    document.body.dataset.carrying = signal
    carried.value = {
      signal,
      name: info.title,
      colour: show.colour(signal),
      x: now.clientX,
      y: now.clientY,
      over: under?.dataset.target ?? '',
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
    if (held.over) void api.addRoute(held.signal, held.over.split(' ')).catch(show.complain)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', up)
  window.addEventListener('pointercancel', end)
}
