// Which lamps are chosen, in the order in which they were: the same everywhere on the desk.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { Lamp } from '../api/api'
import { useShow } from '../live/show'
import type { View } from './geometry'

type Focus = { on: 'lamps' } | { on: 'group' | 'chase' | 'palette'; id: string }
/** Lamps so near in height or breadth, in metres, stand in one row or column. */
const SAME = 0.25

export const useChosen = defineStore('chosen lamps', () => {
  const show = useShow()
  const ids = ref<string[]>([])
  const focus = ref<Focus>({ on: 'lamps' })
  const view = ref<View>('front')
  const lamps = computed(() => show.document?.lamps ?? [])
  const byId = computed(() => new Map(lamps.value.map((lamp) => [lamp.id, lamp])))
  const chosen = computed(() => ids.value.flatMap((id) => byId.value.get(id) ?? []))
  const set = computed(() => new Set(ids.value))
  /** The group whose lamps these are, all of them and in its order. */
  const group = computed(() => {
    const there = (members: string[]): string[] => members.filter((id) => byId.value.has(id))
    return (show.document?.groups ?? []).find((group) => {
      const own = there(group.members ?? [])
      return own.length > 0 && own.length === ids.value.length && own.every((id) => set.value.has(id))
    })
  })
  watch(lamps, () => {
    if (ids.value.some((id) => !byId.value.has(id))) ids.value = ids.value.filter((id) => byId.value.has(id))
  })

  function choose(these: string[], add = false): void {
    focus.value = { on: 'lamps' }
    ids.value = add ? [...ids.value, ...these.filter((id) => !set.value.has(id))] : these
  }
  function toggle(id: string): void {
    focus.value = { on: 'lamps' }
    ids.value = set.value.has(id) ? ids.value.filter((other) => other !== id) : [...ids.value, id]
  }
  const ways = waysOf({ ids, chosen, set, view, lamps, choose })
  function open(on: 'group' | 'chase' | 'palette', id: string): void {
    const group = on === 'group' && show.document?.groups?.find((group) => group.id === id)
    if (group) ids.value = (group.members ?? []).filter((id) => byId.value.has(id))
    focus.value = { on, id }
  }
  /** Which lamp is at a place of the window: said by the drawing while it is there. */
  const under = shallowRef<(x: number, y: number) => string>(() => '')
  return { under, ids, chosen, set, group, focus, view, lamps, byId, choose, toggle, ways, open }
})

interface Choice {
  ids: Ref<string[]>
  chosen: Ref<Lamp[]>
  set: Ref<Set<string>>
  view: Ref<View>
  lamps: Ref<Lamp[]>
  choose: (ids: string[]) => void
}

/** Ways to choose others by those that are chosen. */
function waysOf({ ids, chosen, set, view, lamps, choose }: Choice) {
  const up = (lamp: Lamp): number => (view.value === 'front' ? lamp.place?.z : lamp.place?.y) ?? 0
  const across = (lamp: Lamp): number => lamp.place?.x ?? 0
  function alike(of: (lamp: Lamp) => number, along: typeof of): void {
    const found = lamps.value.filter((lamp) =>
      chosen.value.some((own) => Math.abs(of(own) - of(lamp)) < SAME),
    )
    choose(found.sort((a, b) => along(a) - along(b)).map((lamp) => lamp.id))
  }
  return {
    all: () => choose(lamps.value.map((lamp) => lamp.id)),
    none: () => choose([]),
    'the row': () => alike(up, across),
    'the column': () => alike(across, up),
    'every second': () => choose(ids.value.filter((_, index) => index % 2 === 0)),
    'the others': () => choose(lamps.value.filter((lamp) => !set.value.has(lamp.id)).map((lamp) => lamp.id)),
    'mirror image': () =>
      choose(
        chosen.value.flatMap((own) => {
          const facing = lamps.value.filter(
            (lamp) => Math.abs(across(lamp) + across(own)) < SAME && Math.abs(up(lamp) - up(own)) < SAME,
          )
          return facing.map((lamp) => lamp.id)
        }),
      ),
    'turned round': () => choose([...ids.value].reverse()),
  }
}
