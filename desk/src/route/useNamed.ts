// Signals and parameters by name, for lists: what is shown first, what belongs to other looks behind it.
import { computed } from 'vue'
import { useShow } from '../live/show'

export function useNamed() {
  const show = useShow()
  const signals = computed(() =>
    [...show.signals.values()].map((signal) => ({ label: signal.title, value: signal.id })),
  )
  const parameters = computed(() => {
    const rows = [...show.indices.keys()].map((target) => ({ label: show.targetName(target), value: target }))
    const shown = new Set(
      [show.look?.layers?.flatMap((layer) => [layer.source, ...(layer.effects ?? []), layer.mix]) ?? []]
        .concat([show.look?.finish ?? []])
        .flat()
        .map((part) => part.id),
    )
    const rank = (target: string): number => {
      const part = target.split('.')[0]!
      if (shown.has(part)) return 0
      return show.unseen.has(part) || part.includes('@') ? 2 : 1
    }
    return rows.sort((a, b) => rank(a.value) - rank(b.value))
  })
  return { signals, parameters }
}
