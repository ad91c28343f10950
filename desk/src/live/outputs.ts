// What an output's page knows of its output, and what desks know of all of them.
import { ref, shallowRef } from 'vue'
import type { Output, OutputState } from '../api/api'

/** Of the output that this page shows; null while nothing is known, or where there is none. */
export const shownOutput = shallowRef<{ output: Output | null; why: string } | null>(null)
/** The name that this page is to show for some seconds. */
export const identified = ref('')
/** Of every output, by its id. */
export const outputStates = shallowRef<Record<string, OutputState>>({})

/** Of each second of the last minute, over all outputs: flashes that were let through, share held back. */
export const flashMinute = shallowRef<[number, number][]>([])

/** How much is held back, in per cent; 0 for what nobody could see. */
export const heldPercent = (share: number): number =>
  share < 0.001 ? 0 : Math.max(1, Math.round(share * 100))

const IDENTIFIED_MS = 5000
let ends = 0

/** What is done with each kind of news of outputs. */
export const OUTPUTS = {
  output: (told: { output: Output | null; why: string }) => {
    shownOutput.value = told
  },
  outputs: (states: Record<string, OutputState>) => {
    outputStates.value = states
  },
  flashes: (minute: [number, number][]) => {
    flashMinute.value = minute
  },
  identify: (name: string) => {
    identified.value = name
    clearTimeout(ends)
    ends = window.setTimeout(() => {
      identified.value = ''
    }, IDENTIFIED_MS)
  },
}
