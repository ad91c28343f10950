// Which bands the score shows, and where: a rail for each, a lane for as many as can be read.
import { computed, type ComputedRef, type Ref } from 'vue'
import type { Band } from '../../api/api'
import { layout } from '../../live/live'
import { useShow } from '../../live/show'
import { signalColour } from '../../tokens'
import { SECONDS } from './history'

export interface Lane {
  band: Band
  /** Place of the band's level among the signals; -1 while it is new. */
  index: number
  colour: string
  detectors: { id: string; index: number }[]
}
export const LABELS = 46
export const RAILS = 108
export const BEATS = 46
export const AHEAD_S = 0.8
const MOST_LANES = 6

export function useLanes(props: { input: string; chosen: string }): {
  rails: ComputedRef<Lane[]>
  lanes: ComputedRef<Lane[]>
} {
  const show = useShow()
  const rails = computed<Lane[]>(() =>
    (show.document?.bands ?? [])
      .filter((band) => band.input === props.input)
      .map((band) => {
        const signal = show.signals.get(`band-${band.id}`)
        const detectors = (show.document?.hits ?? [])
          .filter((hit) => hit.band === band.id)
          .map((detector) => ({
            id: detector.id,
            index: layout.value?.hits.findIndex((hit) => hit.id === detector.id) ?? -1,
          }))
        return { band, index: signal?.index ?? -1, colour: signalColour(signal), detectors }
      }),
  )
  // Every band has a rail; lanes go to the chosen band and to the first ones.
  const lanes = computed(() => {
    if (rails.value.length <= MOST_LANES) return rails.value
    const chosen = (rail: Lane): number => Number(rail.band.id === props.chosen)
    const wanted = [...rails.value]
      .sort((a, b) => chosen(b) - chosen(a) || b.detectors.length - a.detectors.length)
      .slice(0, MOST_LANES)
    return rails.value.filter((rail) => wanted.includes(rail))
  })
  return { rails, lanes }
}

/** Sizes of the score on the page, all in CSS pixels, and what lies where in it. */
export function usePlot(width: Ref<number>, height: Ref<number>, lanes: ComputedRef<Lane[]>) {
  // The column shows the score only once the layout is there.
  const scale = computed(() => layout.value!.spectrum)
  const lane = computed(() =>
    Math.min(64, Math.max(34, (height.value * 0.42) / Math.max(1, lanes.value.length))),
  )
  const scoreHeight = computed(() => Math.max(80, height.value - BEATS - lanes.value.length * lane.value))
  const plotWidth = computed(() => Math.max(100, width.value - LABELS - RAILS))
  const perSecond = computed(() => plotWidth.value / (SECONDS + AHEAD_S))
  const ratio = computed(() => scale.value.high_hz / scale.value.low_hz)
  const rowOf = (hz: number): number =>
    (1 - Math.log(hz / scale.value.low_hz) / Math.log(ratio.value)) * scoreHeight.value
  const hzAt = (y: number): number => scale.value.low_hz * ratio.value ** (1 - y / scoreHeight.value)
  return { scale, lane, scoreHeight, plotWidth, perSecond, rowOf, hzAt }
}
export type Plot = ReturnType<typeof usePlot>
