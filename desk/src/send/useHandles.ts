// The handles of an output's fitting: where each stands, and what moves when it is moved.
import { computed, type Ref } from 'vue'
import type { Mask, Output, Wall } from '../api/api'
import { useShow } from '../live/show'
import { fitting } from './chosen'
import { back, homography, through, type Pair } from './projective'

export interface Handle {
  key: string
  label: string
  kind: 'corner' | 'point' | 'mask'
  at: Pair
  move: (to: Pair, gesture: string) => void
}

const CORNERS = ['Top left', 'Top right', 'Bottom right', 'Bottom left']
/** Handles that were dragged off the picture wait at its edge. */
const rounded = (at: Pair): Pair => at.map((value) => Math.round(value * 1e6) / 1e6) as Pair

export function useHandles(output: Ref<Output>) {
  const show = useShow()
  const walls = computed(() => output.value.walls ?? [])
  const wall = computed(() => walls.value.find((each) => each.id === fitting.wall) ?? null)
  const mask = computed(() => (output.value.masks ?? []).find((each) => each.id === fitting.mask) ?? null)
  const path = computed(() => `/outputs/${output.value.id}`)

  function corners(of: Wall): Handle[] {
    return of.corners!.map((at, index) => ({
      key: `${of.id} corner ${index}`,
      label: `${CORNERS[index]} corner of ${of.name}`,
      kind: 'corner',
      at: at as Pair,
      move: (to, gesture) => {
        const moved = of.corners!.map((corner, i) => (i === index ? rounded(to) : corner))
        show.set(`${path.value}/walls/${of.id}/corners`, moved, 'Corner', gesture)
      },
    }))
  }

  function points(of: Wall): Handle[] {
    const { columns = 2, rows = 2, points: there = [] } = of.grid ?? {}
    if (columns * rows <= 4) return []
    const map = homography(of.corners!)
    return there.map((at, index) => ({
      key: `${of.id} point ${index}`,
      label: `Point ${(index % columns) + 1}, ${Math.floor(index / columns) + 1} of ${of.name}`,
      kind: 'point',
      at: through(map, at),
      move: (to, gesture) => {
        const moved = there.map((point, i) => (i === index ? rounded(through(back(map), to)) : point))
        show.set(`${path.value}/walls/${of.id}/grid`, { columns, rows, points: moved }, 'Bend', gesture)
      },
    }))
  }

  function outline(of: Mask): Handle[] {
    return of.points.map((at, index) => ({
      key: `${of.id} ${index}`,
      label: `Point ${index + 1} of ${of.name}`,
      kind: 'mask',
      at: at as Pair,
      move: (to, gesture) => {
        const moved = of.points.map((point, i) => (i === index ? rounded(to) : point))
        show.set(`${path.value}/masks/${of.id}/points`, moved, 'Mask', gesture)
      },
    }))
  }

  const handles = computed<Handle[]>(() => {
    if (mask.value) return outline(mask.value)
    if (wall.value) return [...points(wall.value), ...corners(wall.value)]
    return []
  })

  /** The lines of every wall and mask, in shares of the output. */
  const lines = computed(() => [
    ...walls.value.flatMap((each) => {
      const map = homography(each.corners!)
      const { columns = 2, rows = 2, points: there = [] } = each.grid ?? {}
      const at = (column: number, row: number): Pair => through(map, there[row * columns + column]!)
      const across = Array.from({ length: rows }, (_, r) =>
        Array.from({ length: columns }, (_, c) => at(c, r)),
      )
      const down = Array.from({ length: columns }, (_, c) => Array.from({ length: rows }, (_, r) => at(c, r)))
      return [...across, ...down].map((line) => ({ on: each.id === fitting.wall, mask: false, line }))
    }),
    ...(output.value.masks ?? []).map((each) => ({
      on: each.id === fitting.mask,
      mask: true,
      line: [...each.points, each.points[0]!] as Pair[],
    })),
  ])

  return { handles, lines, wall, mask }
}
