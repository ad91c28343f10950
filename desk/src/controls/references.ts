// What a parameter can refer to, by what it says it is a reference to: one line each.
import { useShow } from '../live/show'

export interface Option {
  value: string
  label: string
}
type Show = ReturnType<typeof useShow>
type Named = { id: string; name: string }

const named = (rows: readonly Partial<Named>[] | undefined): Option[] =>
  (rows ?? []).map((row) => ({ value: row.id ?? '', label: row.name || row.id || '' }))

function routes(show: Show): Option[] {
  const looks = show.document?.looks ?? []
  const sets = [...new Set((show.document?.routes ?? []).map((route) => route.set).filter(Boolean))]
  return [
    ...sets.map((set) => ({ value: `set ${set}`, label: `Routes “${set}”` })),
    ...looks.map((look) => ({ value: `look ${look.id}`, label: `Routes of the look ${look.name}` })),
    ...looks.flatMap((look) =>
      (look.layers ?? []).map((layer) => ({
        value: `layer ${layer.id}`,
        label: `Routes of the layer ${layer.name}`,
      })),
    ),
    ...[...show.signals.values()].map((signal) => ({
      value: `signal ${signal.id}`,
      label: `Routes from ${signal.title}`,
    })),
  ]
}

const OPTIONS: Record<string, (show: Show) => Option[]> = {
  look: (show) => named(show.document?.looks),
  input: (show) => named(show.document?.inputs),
  cue: (show) => named(show.document?.cues),
  preset: (show) => named(show.document?.presets),
  palette: (show) => named(show.document?.palettes),
  group: (show) => named(show.document?.groups),
  chase: (show) => named(show.document?.chases),
  song: (show) => named(show.document?.songs),
  page: (show) => named(show.document?.pages),
  played: (show) =>
    named((show.document?.modulators ?? []).filter((each) => each.part.kind === 'played-signal')),
  parameter: (show) =>
    [...show.indices.keys()].map((target) => ({ value: target, label: show.targetName(target) })),
  routes,
}

export const referenceOptions = (show: Show, of: string): Option[] => OPTIONS[of]?.(show) ?? []

/** What a reference is called; empty for what is gone. */
export function referenceName(show: Show, of: string, value: string): string {
  if (of === 'parameter') return show.indices.has(value) ? show.targetName(value) : ''
  return referenceOptions(show, of).find((option) => option.value === value)?.label ?? ''
}
