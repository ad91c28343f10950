// What is chosen to be copied: anything that says by data-path where it stands. Clicked it is chosen, with Ctrl
// several are; Ctrl+D doubles it, Ctrl+C and Ctrl+V take it elsewhere, also into another show.
import { useEventListener } from '@vueuse/core'
import { nextTick, ref, watch } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'
import { useOpenPart } from '../picture/useOpenPart'
import { takesKeys } from './keys'
import { lookedAt } from './panel'

const NOTHING = {
  title: 'Nothing is chosen',
  detail: 'Click a layer, an effect, a route, a band or a cue first.',
}
/** Paths of what is chosen. */
export const picked = ref<string[]>([])
/** More than anything that was copied here. */
const MOST_LETTERS = 2_000_000

/** Choosing: by a click, with Ctrl several; what is chosen is marked. */
function usePicking(): void {
  const show = useShow()
  useEventListener(
    'pointerdown',
    (event: PointerEvent) => {
      const path = (event.target as Element).closest<HTMLElement>('[data-path]')?.dataset.path
      if (!path) return
      const more = event.ctrlKey || event.metaKey
      if (!more) picked.value = picked.value.includes(path) ? picked.value : [path]
      else if (picked.value.includes(path)) picked.value = picked.value.filter((other) => other !== path)
      else picked.value = [...picked.value, path]
    },
    { capture: true },
  )
  // Rows are drawn anew often: the mark is put on whatever stands there now.
  watch(
    [picked, () => show.document],
    () =>
      void nextTick(() => {
        for (const element of document.querySelectorAll<HTMLElement>('[data-path]'))
          element.toggleAttribute('data-picked', picked.value.includes(element.dataset.path!))
      }),
  )
}

export function useCopying() {
  const show = useShow()
  const openPart = useOpenPart()
  usePicking()
  const doing = async (work: Promise<{ made: string[]; left: string[] }>, what: string): Promise<void> => {
    try {
      const { made, left } = await work
      picked.value = made
      const route = /^\/routes\/(.+)/.exec(made[0] ?? '')?.[1]
      if (route) lookedAt.value = route
      else await openPart(made[0] ?? '')
      if (left.length) show.notice = { title: what, detail: `${left.join('; ')}.` }
    } catch (error) {
      show.complain(error)
    }
  }
  const nothing = (): void => {
    show.notice = NOTHING
  }
  function double(): void {
    if (picked.value.length) void doing(api.copies.double(picked.value), 'Copied, but')
    else nothing()
  }
  async function copy(): Promise<void> {
    if (!picked.value.length) {
      nothing()
      return
    }
    try {
      const clipping = await api.copies.clip(picked.value)
      await navigator.clipboard.writeText(JSON.stringify(clipping))
      const [first, ...rest] = clipping.things
      const name = String((first!.item as { name?: string }).name ?? first!.what)
      show.notice = {
        title: 'Copied',
        detail: `${name}${rest.length ? ` and ${rest.length} more` : ''}, with what moves it.`,
      }
    } catch (error) {
      show.complain(error)
    }
  }
  /** Where a paste goes: the layer that is chosen, or the look that is shown. */
  function place(): string {
    const layer = /^\/looks\/[^/]+\/layers\/[^/]+/.exec(picked.value[0] ?? '')?.[0]
    return layer?.startsWith(`/looks/${show.document?.look}/`) ? layer : `/looks/${show.document?.look ?? ''}`
  }
  function paste(text: string): void {
    if (text.length > MOST_LETTERS)
      show.notice = {
        title: 'That is too much',
        detail: 'What is on the clipboard was not copied in Fulgura.',
      }
    else void doing(api.copies.paste(text, place()), 'Pasted, but')
  }
  useEventListener('paste', (event: ClipboardEvent) => {
    if (takesKeys(event.target, true) || !show.document) return
    event.preventDefault()
    paste(event.clipboardData?.getData('text/plain') ?? '')
  })
  return { double, copy }
}
