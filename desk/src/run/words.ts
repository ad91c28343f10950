// How pads and faders read: what they do, in words and in colour.
import type { Fader, Pad, Part } from '../api/api'
import { referenceName } from '../controls/references'
import { useShow } from '../live/show'

type Show = ReturnType<typeof useShow>

/** The colour of what an action acts on, by its kind; those that are not named act on the whole. */
const ACTS_ON: Record<string, string> = {
  'show-look': 'ice',
  'recall-preset': 'ice',
  'clear-feedback': 'ice',
  'freeze-all': 'ice',
  'recall-palette': 'ember',
  'run-chase': 'ember',
  'flash-lamps': 'ember',
  'set-to': 'hand',
  'hold-at': 'hand',
  'hand-back': 'hand',
  'sound-amount': 'moss',
  'switch-routes': 'moss',
  'add-hit': 'moss',
  tap: 'bolt',
  'turn-beat': 'bolt',
  'go-cue': 'bolt',
  'play-song': 'bolt',
  blackout: 'alarm',
}
export const colourOf = (action: Part | undefined): string =>
  `var(--${(action && ACTS_ON[action.kind]) || 'edge-strong'})`

/** "Look · Open sea": the kind, and what it refers to or chooses. */
export function actionWords(show: Show, action: Part): string {
  const info = show.kind('action', action.kind)
  const values = (action.values ?? {}) as Record<string, unknown>
  const told = show
    .parametersOf(info, values)
    .filter((parameter) => ['reference', 'choice'].includes(parameter.type))
    .map((parameter) => {
      const value = String(values[parameter.name] ?? '')
      if (parameter.type === 'choice') return value
      return value ? referenceName(show, parameter.of ?? '', value) || 'what is gone' : parameter.empty
    })
    .filter((word) => word && word !== 'a certain one')
  return [info?.title ?? action.kind, ...told].join(' · ')
}

export const padWords = (show: Show, pad: Pad): string =>
  pad.name || (pad.actions?.[0] ? actionWords(show, pad.actions[0]) : 'empty')

/** "ring · radius" for a path of the document. */
export function pathWords(show: Show, target: string): string {
  const [path = '', part] = target.split('#')
  return part ? `${numberWords(show, path)} · ${part}` : numberWords(show, path)
}

function numberWords(show: Show, path: string): string {
  const steps = path.split('/').filter(Boolean)
  const name = (steps.at(-1) ?? '').replace(/_/g, ' ')
  if (path === '/sound_amount') return 'sound amount'
  if (steps[0] === 'routes') {
    const route = show.document?.routes?.find((route) => route.id === steps[1])
    return route
      ? `${show.signals.get(route.signal)?.title ?? 'a route'} on ${show.targetName(route.targets[0]!)}`
      : 'what is gone'
  }
  if (steps[0] === 'inputs') {
    const input = show.document?.inputs?.find((input) => input.id === steps[1])
    return input ? `${name.replace(' db', '')} of ${input.name}` : 'what is gone'
  }
  const part = holderOf(show, steps)
  return part ? `${show.partNames.get(part) ?? part} · ${name}` : name
}

/** Id of the part that a path leads into. */
function holderOf(show: Show, steps: string[]): string {
  let at: unknown = show.document
  for (const step of steps.slice(0, -2))
    at = Array.isArray(at) ? at.find((item) => item.id === step) : (at as Record<string, unknown>)?.[step]
  return (at as { id?: string } | undefined)?.id ?? ''
}

export const faderWords = (show: Show, fader: Fader): string =>
  fader.name || (fader.moves?.[0] ? pathWords(show, fader.moves[0].target) : 'empty')
