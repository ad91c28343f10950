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

type Set = (path: string, value: unknown, name: string, gesture: string) => void

function cornersOf(wall: Wall, path: string, set: Set): Handle[] {
  return wall.corners!.map((at, index) => ({
    key: `${wall.id} corner ${index}`,
    label: `${CORNERS[index]} corner of ${wall.name}`,
    kind: 'corner',
    at: at as Pair,
    move: (to, gesture) => {
      const moved = wall.corners!.map((corner, i) => (i === index ? rounded(to) : corner))
      set(`${path}/walls/${wall.id}/corners`, moved, 'Corner', gesture)
    },
  }))
}

function pointsOf(wall: Wall, path: string, set: Set): Handle[] {
  const { columns = 2, rows = 2, points: there = [] } = wall.grid ?? {}
  if (columns * rows <= 4) return []
  const map = homography(wall.corners!)
  return there.map((at, index) => ({
    key: `${wall.id} point ${index}`,
    label: `Point ${(index % columns) + 1}, ${Math.floor(index / columns) + 1} of ${wall.name}`,
    kind: 'point',
    at: through(map, at),
    move: (to, gesture) => {
      const points = there.map((point, i) => (i === index ? rounded(through(back(map), to)) : point))
      set(`${path}/walls/${wall.id}/grid`, { columns, rows, points }, 'Bend', gesture)
    },
  }))
}

function outlineOf(mask: Mask, path: string, set: Set): Handle[] {
  return mask.points.map((at, index) => ({
    key: `${mask.id} ${index}`,
    label: `Point ${index + 1} of ${mask.name}`,
    kind: 'mask',
    at: at as Pair,
    move: (to, gesture) => {
      const moved = mask.points.map((point, i) => (i === index ? rounded(to) : point))
      set(`${path}/masks/${mask.id}/points`, moved, 'Mask', gesture)
    },
  }))
}

/** The lines of a wall's grid, in shares of the output. */
function gridOf(wall: Wall): Pair[][] {
  const map = homography(wall.corners!)
  const { columns = 2, rows = 2, points: there = [] } = wall.grid ?? {}
  const at = (column: number, row: number): Pair => through(map, there[row * columns + column]!)
  const across = Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (_, c) => at(c, r)))
  const down = Array.from({ length: columns }, (_, c) => Array.from({ length: rows }, (_, r) => at(c, r)))
  return [...across, ...down]
}

export function useHandles(output: Ref<Output>) {
  const show = useShow()
  const walls = computed(() => output.value.walls ?? [])
  const masks = computed(() => output.value.masks ?? [])
  const handles = computed<Handle[]>(() => {
    const path = `/outputs/${output.value.id}`
    const mask = masks.value.find((each) => each.id === fitting.mask)
    if (mask) return outlineOf(mask, path, show.set)
    const wall = walls.value.find((each) => each.id === fitting.wall)
    return wall ? [...pointsOf(wall, path, show.set), ...cornersOf(wall, path, show.set)] : []
  })
  /** The lines of every wall and mask. */
  const lines = computed(() => [
    ...walls.value.flatMap((wall) =>
      gridOf(wall).map((line) => ({ on: wall.id === fitting.wall, mask: false, line })),
    ),
    ...masks.value.map((mask) => ({
      on: mask.id === fitting.mask,
      mask: true,
      line: [...mask.points, mask.points[0]!] as Pair[],
    })),
  ])
  return { handles, lines }
}
