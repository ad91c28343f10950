// Keys and game pads as controls: what a hand does on them is passed on, where a key does nothing else.
import { useEventListener } from '@vueuse/core'
import { onScopeDispose, type Ref } from 'vue'
import { actOf, takesKeys } from '../controls/keys'
import { act } from './live'

const KEYS = 'Keys'
const DEAD = 0.08

/** Whether a key is one that can be learnt: letters, digits, signs, F keys. */
export const learnable = (event: KeyboardEvent): boolean =>
  !event.ctrlKey && !event.metaKey && !event.altKey && (event.key.length === 1 || /^F\d+$/.test(event.key))

/** Pass keys on: those that are mapped, and all that can be learnt while something is being learnt. */
export function usePassedKeys(mapped: Ref<Set<string>>, learning: Ref<boolean>): void {
  const down = new Set<string>()
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      const source = `key ${event.key.toLowerCase()}`
      if (event.repeat || takesKeys(event.target) || !learnable(event)) return
      // Keys that the desk has for itself cannot be learnt.
      if (!mapped.value.has(source) && (!learning.value || actOf(event))) return
      event.preventDefault()
      event.stopImmediatePropagation()
      down.add(source)
      act({ event: 'control-said', source, controller: KEYS, value: 1, down: true })
    },
    { capture: true },
  )
  const letGo = (source: string): void => {
    if (down.delete(source)) act({ event: 'control-said', source, controller: KEYS, value: 0, down: false })
  }
  useEventListener(window, 'keyup', (event: KeyboardEvent) => letGo(`key ${event.key.toLowerCase()}`))
  // A page that loses the focus hears of no key that is let go.
  useEventListener(window, 'blur', () => [...down].forEach(letGo))
}

/** Pass game pads on (Gamepad API): buttons as presses, axes as values from 0 to 1. */
export function useGamePads(): void {
  const last = new Map<string, number>()
  let frame = 0
  function look(): void {
    frame = requestAnimationFrame(look)
    for (const pad of navigator.getGamepads?.() ?? []) {
      if (!pad) continue
      pad.buttons.forEach((button, i) => {
        const source = `game ${pad.index + 1} button ${i + 1}`
        if ((last.get(source) ?? 0) === button.value) return
        const was = (last.get(source) ?? 0) > 0.5
        last.set(source, button.value)
        const down = button.value > 0.5
        if (down !== was)
          act({ event: 'control-said', source, controller: pad.id.slice(0, 100), value: button.value, down })
      })
      pad.axes.forEach((axis, i) => {
        const source = `game ${pad.index + 1} axis ${i + 1}`
        const value = Math.abs(axis) < DEAD ? 0.5 : (axis + 1) / 2
        if (Math.abs((last.get(source) ?? 0.5) - value) < 0.004) return
        last.set(source, value)
        act({ event: 'control-said', source, controller: pad.id.slice(0, 100), value, down: null })
      })
    }
  }
  if (typeof navigator.getGamepads === 'function') frame = requestAnimationFrame(look)
  onScopeDispose(() => cancelAnimationFrame(frame))
}
