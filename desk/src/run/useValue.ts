// A number of the document as it reads, by its path.
import { computed, toValue, type ComputedRef, type MaybeRefOrGetter } from 'vue'
import { useShow } from '../live/show'

/** Where the parts of a colour stand in #rrggbb. */
const PARTS: Record<string, number> = { red: 1, green: 3, blue: 5 }

export function useValue(path: MaybeRefOrGetter<string>): ComputedRef<string> {
  const show = useShow()
  return computed(() => {
    let at: unknown = show.document
    const [place = '', part] = toValue(path).split('#')
    for (const step of place.split('/').filter(Boolean))
      at = Array.isArray(at) ? at.find((item) => item.id === step) : (at as Record<string, unknown>)?.[step]
    if (part && typeof at === 'string')
      return (parseInt(at.slice(PARTS[part]!, PARTS[part]! + 2), 16) / 255).toFixed(2)
    return typeof at === 'number' ? at.toFixed(Math.abs(at) < 10 ? 2 : 1) : 'gone'
  })
}
