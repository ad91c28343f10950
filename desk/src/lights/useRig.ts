// The open show's rig as the drawing takes it.
import { computed } from 'vue'
import { useShow } from '../live/show'
import type { Hung, Place, Room } from './geometry'

export function useRig() {
  const show = useShow()
  const hung = computed<Hung[]>(() => {
    let cell = 0
    return (show.document?.lamps ?? []).map((lamp) => {
      const kind = show.kindOf(lamp.fixture)
      const [usual, most] = kind?.pixels ?? [1, 1]
      const cells = Math.min(lamp.pixels || usual, most)
      const own: Hung = {
        ...{ id: lamp.id, number: lamp.number ?? 0, name: lamp.name, place: lamp.place as Place },
        ...{ drawn: kind?.drawn ?? 'can', beam: kind?.beam ?? 30, cell, cells },
      }
      cell += cells
      return own
    })
  })
  const room = computed(() => show.document?.lights?.room as Room | undefined)
  return { hung, room }
}
