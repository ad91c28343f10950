// Which columns of the current stand open: one, or two side by side, as it was left in each show.
import { useStorage } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import { COLUMNS, type Column } from './columns'

interface Kept {
  open: Column
  /** What stands open beside it; empty for nothing. */
  beside: Column | ''
  /** Share of the room that the left one of two has. */
  share: number
}
const FIRST: Kept = { open: 'hear', beside: '', share: 0.5 }
const LEAST = 0.3

export function useColumns(show: () => number) {
  const kept = useStorage<Record<string, Kept>>('fulgura-columns', {})
  const now: ComputedRef<Kept> = computed(() => ({ ...FIRST, ...kept.value[show()] }))
  function keep(change: Partial<Kept>): void {
    kept.value = { ...kept.value, [show()]: { ...now.value, ...change } }
  }
  const order = (column: Column): number => COLUMNS.findIndex(({ id }) => id === column)
  return {
    open: computed(() => now.value.open),
    /** All that stand open, from left to right. */
    wide: computed(() =>
      [now.value.open, now.value.beside]
        .filter((column): column is Column => column !== '')
        .sort((a, b) => order(a) - order(b)),
    ),
    share: computed(() => now.value.share),
    /** Open one alone; one that stands open beside stays there with the other. */
    openAlone(column: Column): void {
      keep(
        column === now.value.beside
          ? { open: column, beside: now.value.open }
          : { open: column, beside: now.value.beside },
      )
    },
    /** Open one beside, or close it again. */
    openBeside(column: Column): void {
      const { open, beside } = now.value
      if (column === open) keep(beside ? { open: beside, beside: '' } : {})
      else keep({ beside: column === beside ? '' : column })
    },
    part(share: number): void {
      keep({ share: Math.min(1 - LEAST, Math.max(LEAST, share)) })
    },
  }
}
