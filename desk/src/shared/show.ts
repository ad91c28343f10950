// The open show on this desk: a copy of the document, and the one way to change it.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Refusal, type Edit, type KindInfo, type Part, type Show, type Track } from './api'
import { layout, showNews } from './live'

let gestures = 0
/** A name for one drag, so that all its edits are one step for undo. */
export const newGesture = (): string => `${Date.now().toString(36)}-${gestures++}`

export const useShow = defineStore('show', () => {
  const document = shallowRef<Show | null>(null)
  const id = ref(0)
  const undoName = ref('')
  const redoName = ref('')
  const kinds = shallowRef<KindInfo[]>([])
  const tracks = shallowRef<Track[]>([])
  const notice = ref<{ title: string; detail: string } | null>(null)
  let version = -1
  let sending: Promise<unknown> = Promise.resolve()
  let waiting: { edit: Edit; name: string; gesture: string } | null = null
  let touched = 0

  watch(showNews, (news) => {
    if (!news || (news.version <= version && news.id === id.value)) return
    // While a drag is under way this desk's own edits are newer than what comes back.
    if (waiting || performance.now() - touched < 150) { setTimeout(() => take(showNews.value), 200); return }
    take(news)
  })

  function take(news: typeof showNews.value): void {
    if (!news || (news.version <= version && news.id === id.value)) return
    document.value = news.document as Show
    id.value = news.id
    version = news.version
    undoName.value = news.undo
    redoName.value = news.redo
  }

  async function load(): Promise<void> {
    try { [kinds.value, tracks.value] = await Promise.all([api.kinds(), api.tracks()]) } catch (error) { complain(error); setTimeout(load, 1000) }
  }

  function complain(error: unknown): void {
    notice.value = error instanceof Refusal ? { title: error.problem.title, detail: error.problem.detail } : { title: 'That did not work', detail: String(error) }
  }

  /** Make an edit: shown here at once, sent in order; of a drag's edits only the newest waits. */
  function edit(change: Edit, name: string, gesture = ''): void {
    if (change.edit === 'set') setLocally(change.path, change.value)
    touched = performance.now()
    if (waiting && gesture && waiting.gesture === gesture && change.edit === 'set' && waiting.edit.edit === 'set' && waiting.edit.path === change.path) {
      waiting.edit = change
      return
    }
    const mine = { edit: change, name, gesture }
    waiting = mine
    sending = sending.then(async () => {
      if (waiting === mine) waiting = null
      try { await api.edit(mine.edit, name, gesture) } catch (error) {
        complain(error)
        version = -1
        showNews.value = showNews.value && { ...showNews.value }
      }
    })
  }

  const set = (path: string, value: unknown, name: string, gesture = ''): void => edit({ edit: 'set', path, value }, name, gesture)

  function setLocally(path: string, value: unknown): void {
    if (!document.value) return
    const copy = structuredClone(document.value) as unknown
    let holder = copy as Record<string, unknown>
    const steps = path.split('/').filter(Boolean)
    for (const [i, step] of steps.entries()) {
      const key = Array.isArray(holder) ? holder.findIndex((item) => item.id === step) : step
      if (key === -1) return
      if (i === steps.length - 1) (holder as Record<string | number, unknown>)[key] = value
      else holder = (holder as Record<string | number, unknown>)[key] as Record<string, unknown>
    }
    document.value = copy as Show
  }

  async function step(which: 'undo' | 'redo'): Promise<void> {
    await sending
    try { await api.step(which) } catch (error) { complain(error) }
  }

  const look = computed(() => document.value?.looks.find((one) => one.id === document.value?.look) ?? null)
  const kind = (name: string): KindInfo | undefined => kinds.value.find((one) => one.kind === name)
  const slots = computed(() => new Map((layout.value?.slots ?? []).map((slot) => [slot.target, slot])))
  const signals = computed(() => new Map((layout.value?.signals ?? []).map((signal, index) => [signal.id, { ...signal, index }])))

  /** "Ring · radius" for a parameter's address. */
  function targetName(target: string): string {
    const slot = slots.value.get(target)
    if (!slot) return 'what is gone'
    const part = partNames.value.get(slot.part)
    return `${part ?? slot.part} · ${slot.parameter.title.toLowerCase()}`
  }

  const partNames = computed(() => {
    const names = new Map<string, string>()
    const note = (part: Part, name?: string): void => { names.set(part.id, name ?? kind(part.kind)?.title ?? part.kind) }
    for (const one of document.value?.looks ?? []) {
      for (const layer of one.layers) { note(layer.source); layer.effects?.forEach((e) => note(e)); note(layer.mix, layer.name) }
      one.finish?.forEach((e) => note(e))
    }
    for (const lamp of document.value?.lamps ?? []) note(lamp.fixture, lamp.name)
    return names
  })

  return { document, id, undoName, redoName, kinds, tracks, notice, look, slots, signals, partNames, load, edit, set, step, kind, targetName, complain }
})
