// The palette in use, as the server says: colours that parameters point at as @1, @2 ...
import { computed, type ComputedRef } from 'vue'
import type { Palette } from '../api/api'
import { useShow } from './show'

export interface InUse {
  /** Palettes that can be taken into use. */
  usable: ComputedRef<Palette[]>
  palette: ComputedRef<Palette | undefined>
  colours: ComputedRef<string[]>
  /** A colour as it is seen: what points at an entry by that entry, counted round. */
  seen: (colour: string) => string
}

export function usePalette(): InUse {
  const show = useShow()
  const usable = computed(() =>
    ((show.document?.palettes ?? []) as Palette[]).filter(
      (each) => each.kind === 'colour' && each.colours.length > 0,
    ),
  )
  const palette = computed(() => usable.value.find(({ id }) => id === show.palette.id))
  const colours = computed(() => show.palette.colours)
  const seen = (colour: string): string =>
    colour.startsWith('@') ? colours.value[(Number(colour.slice(1)) - 1) % colours.value.length]! : colour
  return { usable, palette, colours, seen }
}
