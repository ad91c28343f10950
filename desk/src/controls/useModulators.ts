// What moves each parameter: by its address, with colour and with why it does not. Worked out once for the desk.
import { computed, effectScope, type ComputedRef } from 'vue'
import { state } from '../live/live'
import { useShow } from '../live/show'

export interface Mover {
  name: string
  colour: string
  why: string
}
type Movers = Map<string, Mover[]>
let all: ComputedRef<Movers> | undefined

export function useModulators(): ComputedRef<Movers> {
  all ??= effectScope(true).run(() => computed(movers))!
  return all
}

function movers(): Movers {
  const show = useShow()
  const found: Movers = new Map()
  for (const route of show.document?.routes ?? []) {
    const mover = {
      name: show.signals.get(route.signal)?.title ?? 'gone',
      colour: show.colour(route.signal),
      why: state.value.why?.[route.id]?.text ?? '',
    }
    for (const target of route.targets) found.set(target, [...(found.get(target) ?? []), mover])
  }
  return found
}
