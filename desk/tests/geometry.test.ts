// Where lamps are on the drawing, where their light goes, and what is under a point.
import { expect, it } from 'vitest'
import { along, direction, Frame, lampAt, lampsWithin, type Hung, type Place } from '../src/lights/geometry'

const here: Place = { x: 0, y: 0, z: 0, turn: 0, lean: 0, roll: 0 }
const room = { width: 10, depth: 8, height: 6, wall: here, wall_width: 0, wall_height: 0 }
const lamp = (id: string, place: Partial<Place>, cells = 1): Hung => ({
  ...{ id, number: 1, name: id, drawn: 'can', beam: 30, cell: 0, cells },
  place: { ...here, ...place },
})
const close = (found: readonly number[], wanted: number[]): void =>
  found.forEach((value, i) => expect(value).toBeCloseTo(wanted[i]!, 6))

it('points down at rest, to the audience when it leans, up when it stands on the floor', () => {
  close(direction(here, 0, 0), [0, 0, -1])
  close(direction({ ...here, lean: 90 }, 0, 0), [0, -1, 0])
  close(direction({ ...here, lean: 180 }, 0, 0), [0, 0, 1])
})

it('tilts away from its axis, and pans round it', () => {
  close(direction(here, 0, 90), [0, -1, 0])
  close(direction(here, 90, 90), [1, 0, 0])
  close(direction({ ...here, turn: 90 }, 0, 90), [1, 0, 0])
})

it('a bar lies across the room, and stands when it is rolled while it faces the audience', () => {
  close(along(here), [1, 0, 0])
  close(along({ ...here, lean: 90, roll: 90 }), [0, 0, -1])
})

it('a place is where it is on both views, and back', () => {
  for (const view of ['front', 'top'] as const) {
    const frame = new Frame(room, view, 800, 500)
    const at = frame.of({ ...here, x: 2, y: 3, z: 4 })
    const back = frame.toRoom(at)
    close([back.x, back.up], [2, view === 'front' ? 4 : 3])
  }
})

it('the nearest lamp within reach is under a point; a bar is as long as it is', () => {
  const frame = new Frame(room, 'front', 800, 500)
  const lamps = [lamp('a', { x: -2, z: 3 }), lamp('b', { x: 2, z: 3 }, 40)]
  expect(lampAt(frame, lamps, frame.of(lamps[0]!.place))?.id).toBe('a')
  expect(lampAt(frame, lamps, frame.toScreen(2.8, 3))?.id).toBe('b')
  expect(lampAt(frame, lamps, frame.toScreen(0, 1))).toBeUndefined()
  const box = [frame.toScreen(-4, 4), frame.toScreen(4, 2)] as const
  expect(lampsWithin(frame, [...lamps].reverse(), ...box).map((own) => own.id)).toEqual(['a', 'b'])
})
