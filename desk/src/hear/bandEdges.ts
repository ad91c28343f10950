// A band's ends, pulled by hand: one stops short of the other; what else a band may be, Python says and its
// refusal tells.
import type { Band } from '../api/api'
import { useShow } from '../live/show'

export type Edge = 'low' | 'high' | 'both'
export const KEY_STEP = 1.03

export function useBandEdges() {
  const show = useShow()
  function within(name: 'low_hz' | 'high_hz', hz: number): number {
    const limits = show.kind('listening', 'band')!.parameters.find((parameter) => parameter.name === name)!
    return Math.round(Math.min(limits.high!, Math.max(limits.low!, hz)) * 10) / 10
  }
  function pulled({ low_hz: low, high_hz: high }: Band, edge: Edge, factor: number): [number, number] {
    // Ends are rounded: a hair wider than Python's narrowest is never refused for that.
    const narrowest = show.rules.least_band_ratio * 1.01
    switch (edge) {
      case 'low':
        return [within('low_hz', Math.min(low * factor, high / narrowest)), high]
      case 'high':
        return [low, within('high_hz', Math.max(high * factor, low * narrowest))]
      default:
        return [within('low_hz', low * factor), within('high_hz', high * factor)]
    }
  }
  /** Pull an end of a band, or move all of it, by a factor from where it was. */
  function widen(band: Band, edge: Edge, factor: number, gesture: string): void {
    const [low, high] = pulled(band, edge, factor)
    if (high < low * show.rules.least_band_ratio) return
    const path = `/bands/${band.id}`
    show.edit(
      {
        edit: 'together',
        edits: [
          { edit: 'set', path: `${path}/low_hz`, value: low },
          { edit: 'set', path: `${path}/high_hz`, value: high },
        ],
      },
      `${band.name} band`,
      gesture,
    )
  }
  return widen
}
