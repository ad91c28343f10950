// A document with one place changed: what leads there is new, all else is the very same.
import { describe, expect, it } from 'vitest'
import { withValue } from '../src/live/tree'

const show = {
  name: 'Night',
  looks: [
    { id: 'a', layers: [{ id: 'l', values: { x: 1 } }] },
    { id: 'b', layers: [] },
  ],
}

describe('withValue', () => {
  it('changes a place that is named by ids and copies only what leads there', () => {
    const after = withValue(show, '/looks/a/layers/l/values/x', 2) as typeof show
    expect(after.looks[0]!.layers[0]!.values.x).toBe(2)
    expect(show.looks[0]!.layers[0]!.values.x).toBe(1)
    expect(after.looks[1]).toBe(show.looks[1])
  })

  it('leaves a list alone that has nothing of that id', () => {
    expect((withValue(show, '/looks/gone/layers', []) as typeof show).looks).toBe(show.looks)
  })

  it('makes what is missing on the way, and takes the whole for an empty path', () => {
    expect(withValue({}, '/mixes/ring.radius', 'sum')).toEqual({ mixes: { 'ring.radius': 'sum' } })
    expect(withValue(show, '', 3)).toBe(3)
  })
})
