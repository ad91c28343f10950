// How many beats are left until what waits goes.
import { ref, type Ref } from 'vue'
import { surface } from '../live/surface'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'

const WRAP = 4096

/** Beats left by the id of the pad or cue that waits, as they read: counted whole, and seldom changed. */
export function useBeats(): Ref<Record<string, string>> {
  const left = ref<Record<string, string>>({})
  let told = '{}'
  function paint(packet: Packet): void {
    const beats = packet.blocks.get(Block.picture)?.[2]
    if (beats === undefined) return
    const rows = Object.entries(surface.value.due).map(([id, at]) => {
      const rest = (((at - beats) % WRAP) + WRAP) % WRAP
      return [id, rest < WRAP / 2 ? String(Math.ceil(rest - 0.02)) : '0'] as const
    })
    const now = JSON.stringify(rows)
    if (now === told) return
    told = now
    left.value = Object.fromEntries(rows)
  }
  useFrames([Block.picture], { paint })
  return left
}
