// A number of the document as it reads, by its path.
import { computed, toValue, type ComputedRef, type MaybeRefOrGetter } from 'vue'
import { useShow } from '../live/show'

export function useValue(path: MaybeRefOrGetter<string>): ComputedRef<string> {
  const show = useShow()
  return computed(() => {
    let at: unknown = show.document
    for (const step of toValue(path).split('/').filter(Boolean))
      at = Array.isArray(at) ? at.find((item) => item.id === step) : (at as Record<string, unknown>)?.[step]
    return typeof at === 'number' ? at.toFixed(Math.abs(at) < 10 ? 2 : 1) : 'gone'
  })
}
