// The range of a number, where values lie in it, and how they are written.
import { computed } from 'vue'
import { digits } from '../format'
import type { ControlProps } from './parameter'

export function useNumber(props: ControlProps) {
  const low = computed(() => props.parameter.low ?? 0)
  const high = computed(() => props.parameter.high ?? 1)
  const hand = computed(() => (typeof props.value === 'number' ? props.value : 0))
  const share = (value: number): number =>
    Math.min(1, Math.max(0, (value - low.value) / (high.value - low.value)))
  // Bars grow from zero where the range has one, so that left and right of rest look different.
  const zero = computed(() => (low.value < 0 && high.value > 0 ? share(0) : 0))
  const shown = (value: number): string => digits(value, low.value, high.value)
  /** A value as fine as it is written, and ten times finer. */
  function rounded(value: number): number {
    const step = 10 ** -(shown(1).split('.')[1]?.length ?? 0) / 10
    return Number((Math.round(value / step) * step).toFixed(6))
  }
  return { low, high, hand, share, zero, shown, rounded }
}
