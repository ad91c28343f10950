// The parts of the shown look, from the front layer to the finish, and the one that is being turned.
import { computed, ref } from 'vue'
import type { Part } from '../api/api'
import { useShow } from '../live/show'

export interface Step {
  part: Part
  path: string
  title: string
  family: string
}

/** Remembered while another place of the desk is open. */
const chosen = ref('')

export function useParts() {
  const show = useShow()
  const base = computed(() => `/looks/${show.look?.id}`)
  const layers = computed(() => [...(show.look?.layers ?? [])].reverse())
  const stepOf = (part: Part, path: string): Step => ({
    part,
    path,
    title: show.kindOf(part)?.title ?? part.kind,
    family: part.family ?? '',
  })
  const parts = computed<Step[]>(() => [
    ...layers.value.flatMap((layer) => {
      const path = `${base.value}/layers/${layer.id}`
      return [
        stepOf(layer.source, `${path}/source`),
        ...(layer.effects ?? []).map((part) => stepOf(part, `${path}/effects/${part.id}`)),
        stepOf(layer.mix, `${path}/mix`),
      ]
    }),
    ...(show.look?.finish ?? []).map((part) => stepOf(part, `${base.value}/finish/${part.id}`)),
  ])
  // At first a part that has something to turn: a group or the picture so far has nothing.
  const step = computed(
    () =>
      parts.value.find((step) => step.part.id === chosen.value) ??
      parts.value.find((step) => show.kindOf(step.part)?.parameters.length) ??
      parts.value[0],
  )
  const layer = computed(() =>
    layers.value.find((layer) => step.value?.path.includes(`/layers/${layer.id}/`)),
  )
  return { chosen, base, layers, parts, step, layer }
}
