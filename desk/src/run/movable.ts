// All numbers of the document that a fader can move: parameters by their address, the rest by their path.
import type { Option } from '../controls/references'
import { useShow } from '../live/show'
import { pathWords } from './words'

const PARTS = ['red', 'green', 'blue']

export function movable(show: ReturnType<typeof useShow>): Option[] {
  const paths = [
    '/sound_amount',
    ...(show.document?.inputs ?? []).map((input) => `/inputs/${input.id}/gain_db`),
    ...(show.document?.bands ?? []).map((band) => `/bands/${band.id}/gain_db`),
    ...(show.document?.routes ?? []).map((route) => `/routes/${route.id}/amount`),
  ]
  const numbers = [...show.indices.values()].filter(
    (entry) => entry.parameter.type === 'number' && !entry.of?.length,
  )
  const colours = [...show.indices.values()].filter(
    (entry) => entry.parameter.type === 'colour' && !entry.of?.length,
  )
  // What is shown comes first.
  const parts = numbers.sort((a, b) => Number(show.unseen.has(a.part)) - Number(show.unseen.has(b.part)))
  return [
    ...paths.map((path) => ({ value: path, label: pathWords(show, path) })),
    ...colours.flatMap((entry) =>
      PARTS.map((part) => ({
        value: `${entry.target}#${part}`,
        label: `${show.targetName(entry.target)} · ${part}`,
      })),
    ),
    ...parts.map((entry) => ({ value: entry.target, label: show.targetName(entry.target) })),
  ]
}
