// A tile of the shelves carried by hand onto lamps of the drawing, or onto another tile.
import { ref } from 'vue'
import { useChosen } from './chosen'

const FAR = 6
/** What is carried, and where: for the ghost under the pointer. */
export const carriedTile = ref<{ name: string; x: number; y: number } | null>(null)

/**
 * Begin at a pointerdown on a tile. Only a pull makes it a carry; a click stays a click. on.lamp gets the lamp that it is
 * dropped on; on.tile the kind and id of another tile.
 */
export function carryTile(
  event: PointerEvent,
  name: string,
  on: { lamp?: (id: string) => void; tile?: (kind: string, id: string) => void },
): void {
  if (event.button !== 0) return
  const chosen = useChosen()
  const from = { x: event.clientX, y: event.clientY }
  const move = (now: PointerEvent): void => {
    if (carriedTile.value || Math.hypot(now.clientX - from.x, now.clientY - from.y) > FAR)
      carriedTile.value = { name, x: now.clientX, y: now.clientY }
  }
  const end = (now: PointerEvent): void => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', end)
    window.removeEventListener('pointercancel', end)
    const held = carriedTile.value
    carriedTile.value = null
    if (!held || now.type === 'pointercancel') return
    window.addEventListener('click', swallow, { capture: true, once: true })
    setTimeout(() => window.removeEventListener('click', swallow, { capture: true }), 0)
    const under = document.elementFromPoint(now.clientX, now.clientY)
    const tile = under?.closest<HTMLElement>('[data-tile]')
    if (tile) on.tile?.(tile.dataset.tile!, tile.dataset.id!)
    else if (under?.closest('[data-rig]')) {
      const lamp = chosen.under(now.clientX, now.clientY)
      if (lamp) on.lamp?.(lamp)
    }
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', end)
  window.addEventListener('pointercancel', end)
}

/** The click that follows a pull is none. */
function swallow(click: Event): void {
  click.stopPropagation()
  click.preventDefault()
}
