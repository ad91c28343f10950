// One pull with a pointer: where it is within an element, and a name for the gesture, so that all its edits
// are one
// step for undo.
import { ref, type Ref } from 'vue'
import { newGesture } from '../live/gestures'

export interface Drag {
  /** Where the pointer is, as shares of the element from its upper left corner, within 0..1. */
  x: number
  y: number
  gesture: string
  event: PointerEvent
}

export interface DragHandlers {
  onPointerdown: (event: PointerEvent) => void
  onPointermove: (event: PointerEvent) => void
  onPointerup: (event: PointerEvent) => void
  onPointercancel: (event: PointerEvent) => void
}

/** Bind the handlers with v-bind. inset: pixels at the edges that count as the edge. */
export function useDrag(
  on: { start?: (drag: Drag) => void; move: (drag: Drag) => void; end?: (event: PointerEvent) => void },
  inset = { x: 0, y: 0 },
): { dragging: Ref<boolean>; handlers: DragHandlers } {
  const dragging = ref(false)
  let gesture = ''
  function at(event: PointerEvent): Drag {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    const share = (from: number, start: number, length: number, edge: number): number =>
      Math.min(1, Math.max(0, (from - start - edge) / (length - 2 * edge)))
    return {
      x: share(event.clientX, box.left, box.width, inset.x),
      y: share(event.clientY, box.top, box.height, inset.y),
      gesture,
      event,
    }
  }
  const letGo = (event: PointerEvent): void => {
    if (!dragging.value) return
    dragging.value = false
    on.end?.(event)
  }
  return {
    dragging,
    handlers: {
      onPointerdown(event) {
        ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
        dragging.value = true
        gesture = newGesture()
        const drag = at(event)
        on.start?.(drag)
        on.move(drag)
      },
      onPointermove(event) {
        if (dragging.value) on.move(at(event))
      },
      onPointerup: letGo,
      onPointercancel: letGo,
    },
  }
}
