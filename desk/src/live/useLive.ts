// A live value under a hand: whether it is held, and ways to hold it and to give it back.
import { computed, toValue, type ComputedRef, type MaybeRefOrGetter } from 'vue'
import { giveBack, hold, state } from './live'

export function useLive(target: MaybeRefOrGetter<string | undefined>): {
  held: ComputedRef<boolean>
  hold: (value?: number | string | boolean) => void
  release: () => void
  toggle: () => void
} {
  const held = computed(() => {
    const address = toValue(target)
    return !!address && (state.value.overridden ?? []).includes(address)
  })
  const act = (what: (address: string) => void): void => {
    const address = toValue(target)
    if (address) what(address)
  }
  const take = (value?: number | string | boolean): void => act((address) => hold(address, value))
  const release = (): void => act((address) => giveBack(address))
  return { held, hold: take, release, toggle: () => (held.value ? release() : take()) }
}
