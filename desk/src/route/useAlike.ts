// Parameters that are alike: of the same name, of parts of the same kind in the same look.
import { computed } from 'vue'
import type { Part, Route } from '../api/api'
import { useShow } from '../live/show'

/** Addresses that a route does not move yet, alike to what it moves. */
export function useAlike(props: { route: Route }) {
  const show = useShow()
  return computed(() => {
    const [id, name] = (props.route.targets[0] ?? '').split('.')
    for (const look of show.document?.looks ?? []) {
      const parts: Part[] = [
        ...(look.layers ?? []).flatMap((layer) => [layer.source, ...(layer.effects ?? []), layer.mix]),
        ...(look.finish ?? []),
      ]
      const first = parts.find((part) => part.id === id)
      if (!first) continue
      return parts
        .filter((part) => part.kind === first.kind && part.family === first.family)
        .map((part) => `${part.id}.${name}`)
        .filter((target) => !props.route.targets.includes(target) && show.indices.has(target))
    }
    return []
  })
}
