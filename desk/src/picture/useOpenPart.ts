// Opens what was just made: it is what one goes on with.
import { useShow } from '../live/show'
import { valueAt } from '../live/tree'
import { useParts } from './useParts'

/** path: of a layer or of an effect; anything else opens nothing here. */
export function useOpenPart(): (path: string) => Promise<void> {
  const show = useShow()
  const { chosen } = useParts()
  return async (path) => {
    if (!path.startsWith('/looks/')) return
    await show.arrived((document) => valueAt(document, path) !== undefined)
    const made = valueAt(show.document, path) as { id: string; source?: { id: string } } | undefined
    if (made) chosen.value = made.source?.id ?? made.id
  }
}
