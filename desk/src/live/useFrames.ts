// Ask for blocks while a component lives; hear every frame, and paint at most once per display frame.
import { onScopeDispose, watchEffect } from 'vue'
import { ask, listeners, painters, wants } from './live'
import type { Packet } from './wire'

export function useFrames(
  blocks: readonly number[] | (() => readonly number[]),
  on: { every?: (packet: Packet) => void; paint?: (packet: Packet) => void },
): void {
  const key = Symbol()
  watchEffect(() => {
    wants.set(key, typeof blocks === 'function' ? blocks() : blocks)
    ask()
  })
  if (on.every) listeners.add(on.every)
  if (on.paint) painters.add(on.paint)
  onScopeDispose(() => {
    wants.delete(key)
    if (on.every) listeners.delete(on.every)
    if (on.paint) painters.delete(on.paint)
    ask()
  })
}
