// How far each route went in its last bar.
import { onScopeDispose, ref, type Ref } from 'vue'
import { useShow } from '../live/show'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'

/** Numbers of the telemetry block for each route; the second is how far it went. */
const NUMBERS = 3
// It changes once a bar: looked at twice a second, not sixty times.
const LOOK_MS = 500

export function useMoved(): Ref<Map<string, number>> {
  const show = useShow()
  const moved = ref(new Map<string, number>())
  let last: Packet | null = null
  useFrames([Block.telemetry], {
    every: (packet) => {
      last = packet
    },
  })
  const timer = window.setInterval(() => {
    const telemetry = last?.blocks.get(Block.telemetry)
    if (telemetry)
      moved.value = new Map(
        [...show.stages].map(([id, stage]) => [id, telemetry[stage.index * NUMBERS + 1] ?? 0]),
      )
  }, LOOK_MS)
  onScopeDispose(() => clearInterval(timer))
  return moved
}
