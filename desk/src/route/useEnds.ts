// The two ends between which a route moves what it moves.
import { computed } from 'vue'
import type { Route } from '../api/api'
import { useShow } from '../live/show'

export function useEnds(props: { route: Route }) {
  const show = useShow()
  const parameter = computed(() => show.indices.get(props.route.targets[0]!)?.parameter)
  const isColour = computed(() => typeof props.route.low === 'string')
  const ends = computed<[number, number]>(() =>
    isColour.value ? [0, 1] : [Number(props.route.low), Number(props.route.high)],
  )
  // A choice is moved over its places.
  const limits = computed<[number, number]>(() =>
    parameter.value?.type === 'choice'
      ? [0, parameter.value.choices!.length - 1]
      : [parameter.value?.low ?? 0, parameter.value?.high ?? 1],
  )
  const setEnd = (name: 'low' | 'high', to: number | string, gesture = ''): void =>
    show.set(`/routes/${props.route.id}/${name}`, to, 'Route range', gesture)
  return { parameter, isColour, ends, limits, setEnd }
}
