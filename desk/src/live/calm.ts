// The desk is looked at for hours from near by: its own pictures never flash more often than three times a
// second. Where the guard is off, they are drawn so seldom that they cannot; outputs are what they are.
import { computed, type ComputedRef } from 'vue'
import { useShow } from './show'

/** Of sixty frames a second: five pictures, of which no more than two and a half can be flashes. */
export const SELDOM = 12

/** One frame in how many the desk draws of the picture, and of the lamps. */
export function useCalm(): { picture: ComputedRef<number>; lamps: ComputedRef<number> } {
  const show = useShow()
  return {
    picture: computed(() => (show.document?.guard?.on === false ? SELDOM : 1)),
    lamps: computed(() => (show.document?.lights?.strobe ? SELDOM : 1)),
  }
}
