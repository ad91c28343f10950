// What moves each parameter: by its address, with colour and with why it does not.
import { computed } from 'vue'
import { state } from '../live/live'
import { useShow } from '../live/show'

export interface Mover {
  name: string
  colour: string
  why: string
}

/** Movers of the parameters of one part, or of one that listens or routes. */
export function useModulators(owner: () => string) {
  const show = useShow()
  return computed(() => {
    const found = new Map<string, Mover[]>()
    const begins = `${owner()}.`
    for (const route of show.document?.routes ?? []) {
      for (const target of route.targets) {
        if (!target.startsWith(begins)) continue
        const mover = {
          name: show.signals.get(route.signal)?.title ?? 'gone',
          colour: show.colour(route.signal),
          why: state.value.why?.[route.id]?.text ?? '',
        }
        found.set(target, [...(found.get(target) ?? []), mover])
      }
    }
    return found
  })
}
