// The page reads frame messages as Python wrote them: the same vectors that Python's tests read.
import { describe, expect, it } from 'vitest'
import { decode } from '../src/live/wire'
import rows from '../../tests/vectors/frames.json'

interface Vector {
  plan: number
  layout: number
  number: number
  time: number
  blocks: Record<string, { values: number[] }>
  hex: string
}
const vectors = rows as unknown as Vector[]
const bytes = (hex: string): ArrayBuffer =>
  Uint8Array.from(hex.match(/../g) ?? [], (pair) => parseInt(pair, 16)).buffer

describe('frame messages', () => {
  it.each(vectors)('are read as they were written: frame $number', (vector) => {
    const packet = decode(bytes(vector.hex))!
    expect([packet.plan, packet.layout, packet.number, packet.time]).toEqual([
      vector.plan,
      vector.layout,
      vector.number,
      vector.time,
    ])
    for (const [id, { values }] of Object.entries(vector.blocks))
      expect([...packet.blocks.get(Number(id))!]).toEqual(values.map((value) => expect.closeTo(value, 6)))
  })

  it('are nothing when they are cut off, of another version or something else', () => {
    const whole = vectors[1]!.hex
    for (let cut = 0; cut < whole.length; cut += 2) expect(decode(bytes(whole.slice(0, cut)))).toBeNull()
    expect(decode(bytes(whole.replace(/^46554c470100/, '46554c470200')))).toBeNull()
    expect(decode(bytes(whole.replace(/^46/, '47')))).toBeNull()
  })
})
