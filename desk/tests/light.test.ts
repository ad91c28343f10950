// A lamp's light is its colour, as strong as it shines.
import { expect, it } from 'vitest'
import { encode, lightOf } from '../src/lights/light'

it('is colour times intensity, of the lamp that is asked for', () => {
  const lamps = new Float32Array([1, 0.5, 0, 1, 0, 1, 0.25, 0.5])
  expect(lightOf(lamps, 0)).toEqual([1, 0.5, 0])
  expect(lightOf(lamps, 1)).toEqual([0, 0.5, 0.125])
  expect(lightOf(lamps, 2)).toEqual([0, 0, 0])
})

it('is shown in sRGB (IEC 61966-2-1)', () => {
  expect([0, 0.002, 0.25, 1].map(encode)).toEqual([0, 7, 137, 255])
})
