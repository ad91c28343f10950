// New layers and effects: they go to the look that was meant when they were asked for, and are opened there.
import { ref } from 'vue'
import { api } from '../api/api'
import { picked } from '../controls/useCopying'
import { useShow } from '../live/show'
import { valueAt } from '../live/tree'
import { useParts } from './useParts'

/** What is on its way, by what it is called. */
const adding = ref<string[]>([])

export function useAdding() {
  const show = useShow()
  const { chosen } = useParts()

  /** Do it, say so meanwhile, and open what came of it. make gives the id of its part. */
  async function add(title: string, make: () => Promise<string>): Promise<void> {
    adding.value = [...adding.value, title]
    try {
      chosen.value = await make()
    } catch (error) {
      show.complain(error)
    }
    const at = adding.value.indexOf(title)
    adding.value = adding.value.filter((_, index) => index !== at)
  }
  const title = (family: string, kind: string): string => show.kind(family, kind)?.title ?? kind
  const layersOf = (look: string) => show.document?.looks?.find((each) => each.id === look)?.layers ?? []

  const addLayer = (kind: string): Promise<void> => {
    const meant = show.lookNow()
    return add(title('source', kind), async () => {
      const look = await meant
      const { id } = await api.addLayer(look, kind)
      await show.arrived(() => layersOf(look).some((layer) => layer.id === id))
      picked.value = [`/looks/${look}/layers/${id}`]
      return layersOf(look).find((layer) => layer.id === id)?.source.id ?? ''
    })
  }
  /** holder: path of the list of effects; none for the finish of the look that is meant now. */
  const addEffect = (kind: string, holder = ''): Promise<void> => {
    const meant = show.lookNow()
    return add(title('effect', kind), async () => {
      const into = holder || `/looks/${await meant}/finish`
      const { id } = await api.addEffect(into, kind)
      await show.arrived((document) => valueAt(document, `${into}/${id}`) !== undefined)
      picked.value = [`${into}/${id}`]
      return id
    })
  }
  return { adding, addLayer, addEffect }
}
