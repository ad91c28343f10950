// The keys of the whole desk: one table, read by the handler and by the list that ? shows.
import { COLUMNS, PLACES, type Column, type Place } from '../columns'

export interface Key {
  /** As the key says it itself; letters in lower case. */
  key: string
  ctrl?: boolean
  shift?: boolean
  /** As it stands on the key. */
  cap: string
  says: string
  act?: Act
}
export type Act =
  | 'undo'
  | 'redo'
  | 'keys'
  | 'blackout'
  | 'next-cue'
  | 'copy'
  | 'double'
  | `open ${Place}`
  | `beside ${Column}`

const columns: Key[] = PLACES.map((column) => ({
  key: column.key,
  cap: column.key,
  says: `${column.title} opens`,
  act: `open ${column.id}`,
}))

/**
 * By where they act. Keys without an act belong to the part that has the focus, which handles them itself.
 */
export const KEYS: { title: string; keys: Key[] }[] = [
  {
    title: 'The show',
    keys: [
      { key: 'b', cap: 'B', says: 'Blackout: lamps and pictures go dark, or come back', act: 'blackout' },
      { key: 'g', cap: 'G', says: 'The next cue', act: 'next-cue' },
      { key: 'Escape', cap: 'Esc held', says: 'Hand back: every value is the hand’s again' },
    ],
  },
  {
    title: 'The desk',
    keys: [
      ...columns,
      { key: 'Shift+1', cap: 'Shift+1 … 4', says: 'Open it beside the other, or close it there' },
      { key: 'z', ctrl: true, cap: 'Ctrl+Z', says: 'Undo', act: 'undo' },
      {
        key: 'd',
        ctrl: true,
        cap: 'Ctrl+D',
        says: 'A copy of what is chosen, with all that moves it',
        act: 'double',
      },
      {
        key: 'c',
        ctrl: true,
        cap: 'Ctrl+C, Ctrl+V',
        says: 'Copy what is chosen; paste it here, or in another show',
        act: 'copy',
      },
      { key: 'z', ctrl: true, shift: true, cap: 'Ctrl+Shift+Z', says: 'Redo', act: 'redo' },
      { key: '?', cap: '?', says: 'These keys', act: 'keys' },
    ],
  },
  {
    title: 'On a value',
    keys: [
      { key: 'ArrowRight', cap: '← ↓ ↑ →', says: 'Move it; with Shift, far' },
      { key: 'Home', cap: 'Home, End', says: 'To its lowest, its highest' },
      { key: 'Backspace', cap: 'Backspace', says: 'Its default' },
      { key: 'f', cap: 'F held', says: 'Freeze it' },
      { key: 'w', cap: 'W', says: 'Why it does not move' },
    ],
  },
  {
    title: 'In lists and rows',
    keys: [
      { key: 'ArrowRight', cap: '← →', says: 'Along a row of tabs' },
      { key: 'ArrowDown', cap: '↑ ↓', says: 'Along a list; move a layer that is gripped' },
      { key: 'Enter', cap: 'Enter', says: 'Take what is marked, or the first that fits' },
      { key: 'Escape', cap: 'Esc', says: 'Close what is open' },
    ],
  },
]

const TAKE_ALL = [
  ...['input', 'textarea', 'select', '[contenteditable=true]', '[role=combobox][aria-expanded=true]'],
  ...['listbox', 'menu', 'dialog'].map((role) => `[role=${role}]`),
].join()
/** A list that is closed is searched by letters; with Ctrl it has no keys. */
const TAKE_LETTERS = `${TAKE_ALL},[role=combobox]`

/**
 * Whether what has the focus takes letters itself: typed text, a list that is searched by typing, an open
 * dialog.
 */
export const takesKeys = (target: EventTarget | null, ctrl = false): boolean =>
  target instanceof Element && target.closest(ctrl ? TAKE_ALL : TAKE_LETTERS) !== null

/** A dialog over the desk has the keys from the moment that it shows, before the focus has come to it. */
const dialogIsOpen = (): boolean => document.querySelector('[role=dialog][aria-modal=true]') !== null

/** What a key does for the whole desk; nothing while something that takes keys has the focus. */
export function actOf(event: KeyboardEvent): Act | undefined {
  const ctrl = !!(event.ctrlKey || event.metaKey)
  if (takesKeys(event.target, ctrl) || dialogIsOpen() || event.altKey || event.repeat) return undefined
  // The key, not its sign: with Shift that is another on each keyboard.
  const beside = COLUMNS.find(({ key }) => event.code === `Digit${key}`)
  if (beside && event.shiftKey && !ctrl) return `beside ${beside.id}`
  return KEYS.flatMap((group) => group.keys).find(
    (key) =>
      key.act !== undefined &&
      key.key === (key.key.length === 1 ? event.key.toLowerCase() : event.key) &&
      !!key.ctrl === ctrl &&
      (!ctrl || !!key.shift === !!event.shiftKey),
  )?.act
}
