// What hands type, in the unit that a number has; where a panel goes; what stands at a path.
import { describe, expect, it } from 'vitest'
import { inDecibels, typedNumber } from '../src/controls/typed'
import { valueAt, valuePath } from '../src/live/tree'

describe('a typed number', () => {
  it.each([
    ['0.5', '', 0.5],
    ['0,25', '', 0.25],
    ['1/3', '', 1 / 3],
    ['2*(0.04+0.06)', '', 0.2],
    ['-6 dB', '', 10 ** (-6 / 20)],
    ['−6 dB', 'dB', -6],
    ['40 %', '', 0.4],
    ['2 beats', 'ms', 968],
    ['1/4 beats', 'ms', 121],
    ['0.3 s', 'ms', 300],
    ['1 s + 200 ms', 's', 1.2],
    ['1.2 kHz', 'Hz', 1200],
    ['400/s', '/s', 400],
    ['-(2+1)', '', -3],
  ])('“%s” in “%s”', (text, unit, value) => {
    expect(typedNumber(text, { unit, beatS: 0.484 })).toBeCloseTo(value, 6)
  })
  it.each(['', 'loud', '1 +', '(2', '3 Hz', '1 2', '1/0'])('“%s” is none', (text) => {
    expect(typedNumber(text, { unit: 'ms' })).toBeUndefined()
  })
  it('is read in decibels beside', () => {
    expect([1, 0.5, 0.05, 0].map(inDecibels)).toEqual(['0.0 dB', '-6.0 dB', '-26 dB', '−∞ dB'])
  })
})

it('has a place in the document, whatever it belongs to', () => {
  const tree = { looks: [{ id: 'a', layers: [{ id: 'b', source: { id: 'ring', values: { radius: 1 } } }] }] }
  expect(valuePath(tree, 'ring.radius')).toBe('/looks/a/layers/b/source/values/radius')
  expect(valuePath(tree, 'band@low.gain_db')).toBe('/bands/low/gain_db')
  expect(valuePath(tree, 'level@main.floor_dbfs')).toBe('/inputs/main/level/floor_dbfs')
  expect(valuePath(tree, 'step@r1@smooth.release')).toBe('/routes/r1/shapers/smooth/values/release')
  expect(valueAt(tree, '/looks/a/layers/b/source/values/radius')).toBe(1)
  expect(valueAt(tree, '/looks/gone/layers')).toBeUndefined()
})
