// One table of keys: what the handler does is what the list says.
import { describe, expect, it, vi } from 'vitest'
import { actOf, KEYS } from '../src/controls/keys'

class Place {
  constructor(readonly takes: boolean) {}
  closest(): Place | null {
    return this.takes ? this : null
  }
}
let dialog: Place | null = null
vi.stubGlobal('Element', Place)
vi.stubGlobal('document', { querySelector: () => dialog })
const press = (key: string, more: object = {}): KeyboardEvent =>
  ({ key, target: new Place(false), ...more }) as unknown as KeyboardEvent

describe('keys', () => {
  it('do what the table says, in either case of the letter', () => {
    expect([actOf(press('b')), actOf(press('B')), actOf(press('2')), actOf(press('?'))]).toEqual([
      'blackout',
      'blackout',
      'open route',
      'keys',
    ])
    expect(actOf(press('z', { ctrlKey: true }))).toBe('undo')
    expect(actOf(press('Z', { ctrlKey: true, shiftKey: true }))).toBe('redo')
  })

  it('do nothing where letters are taken, with Alt, when held, or with Ctrl', () => {
    expect(actOf(press('b', { target: new Place(true) }))).toBeUndefined()
    for (const how of ['altKey', 'repeat', 'ctrlKey'])
      expect(actOf(press('b', { [how]: true }))).toBeUndefined()
  })

  it('do nothing behind a dialog, wherever the focus is', () => {
    dialog = new Place(false)
    expect(actOf(press('b'))).toBeUndefined()
    dialog = null
    expect(actOf(press('b'))).toBe('blackout')
  })

  it('stand once each in the table', () => {
    const acting = KEYS.flatMap((group) => group.keys).filter((key) => key.act)
    const names = acting.map((key) => `${key.ctrl ?? ''} ${key.shift ?? ''} ${key.key}`)
    expect(new Set(names).size).toBe(names.length)
  })
})
