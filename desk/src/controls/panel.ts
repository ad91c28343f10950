// Which parameter's panel is open, and which route is looked at: small news between columns.
import { ref, shallowRef } from 'vue'

export const panel = shallowRef<{ target: string; at: HTMLElement; why: boolean } | null>(null)
/** Id of the route that the Route column opens; set from anywhere. */
export const lookedAt = ref('')
/** What the Route column shows only: routes of this signal or target; empty for all. */
export const only = ref('')

export function openPanel(target: string, at: HTMLElement, why = false): void {
  panel.value = panel.value?.target === target ? null : { target, at, why }
}
