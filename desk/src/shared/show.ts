// The open show on this desk: a copy of the document, and the one way to change it.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Refusal, type Edit, type KindInfo, type Part, type Show, type Track } from './api'
import { editNews, layout, showNews, state } from './live'
import { signalColour } from './tokens'

/** The input that every show has. */
export const MAIN = 'main'
let gestures = 0
/** A name for one drag, so that all its edits are one step for undo. */
export const newGesture = (): string => `${Date.now().toString(36)}-${gestures++}`

/** A tree with one place changed: only what leads there is copied, all else stays the very same. */
function withValue(tree: unknown, steps: string[], value: unknown): unknown {
  const [step, ...rest] = steps
  if (step === undefined) return value
  if (Array.isArray(tree))
    return tree.some((item) => item.id === step)
      ? tree.map((item) => (item.id === step ? withValue(item, rest, value) : item))
      : tree
  return {
    ...(tree as Record<string, unknown>),
    [step]: withValue((tree as Record<string, unknown> | undefined)?.[step], rest, value),
  }
}

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
  let mine = ''
  let settling = 0

  watch(showNews, (news) => {
    if (!news || (news.version <= version && news.id === id.value)) return
    // While a drag is under way this desk's own edits are newer than what comes back.
    if (waiting || performance.now() - touched < 150) {
      setTimeout(() => take(showNews.value), 200)
      return
    }
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

  watch(
    editNews,
    (news) => {
      if (!news || news.id !== id.value || news.version <= version) return
      if (news.from !== version) {
        void refresh()
        return
      }
      version = news.version
      undoName.value = news.undo
      redoName.value = news.redo
      // While a drag is under way this desk's own edits of that place are newer than what comes back.
      const busy = waiting || performance.now() - touched < 150
      for (const { path, value } of news.changes) {
        if (busy && path === mine) continue
        document.value = withValue(document.value as unknown, path.split('/').filter(Boolean), value) as Show
      }
      if (busy) {
        clearTimeout(settling)
        settling = window.setTimeout(refresh, 400)
      }
    },
    { flush: 'sync' },
  )

  /** Take the document as it is: after a gap in the news, and when a drag has ended. */
  async function refresh(): Promise<void> {
    if (waiting) {
      settling = window.setTimeout(refresh, 200)
      return
    }
    try {
      const now = await api.show()
      if (waiting || now.version < version) return
      version = -1
      take({ ...now, document: now.document })
    } catch (error) {
      complain(error)
    }
  }

  async function load(): Promise<void> {
    try {
      ;[kinds.value, tracks.value] = await Promise.all([api.kinds(), api.tracks()])
    } catch (error) {
      complain(error)
      setTimeout(load, 1000)
    }
  }

  watch(
    () => state.value.library,
    (now, before) => {
      if (before !== undefined && now !== before) loadTracks().catch(complain)
    },
  )

  async function loadTracks(): Promise<void> {
    tracks.value = await api.tracks()
  }

  function complain(error: unknown): void {
    notice.value =
      error instanceof Refusal
        ? { title: error.problem.title, detail: error.problem.detail }
        : { title: 'That did not work', detail: String(error) }
  }

  /** Make an edit: shown here at once, sent in order; of a drag's edits only the newest waits. */
  function edit(change: Edit, name: string, gesture = ''): void {
    if (change.edit === 'set') {
      setLocally(change.path, change.value)
      mine = change.path
    }
    touched = performance.now()
    if (
      waiting &&
      gesture &&
      waiting.gesture === gesture &&
      change.edit === 'set' &&
      waiting.edit.edit === 'set' &&
      waiting.edit.path === change.path
    ) {
      waiting.edit = change
      return
    }
    const own = { edit: change, name, gesture }
    waiting = own
    sending = sending.then(async () => {
      if (waiting === own) waiting = null
      try {
        await api.edit(own.edit, name, gesture)
      } catch (error) {
        complain(error)
        version = -1
        void refresh()
      }
    })
  }

  const set = (path: string, value: unknown, name: string, gesture = ''): void =>
    edit({ edit: 'set', path, value }, name, gesture)

  function setLocally(path: string, value: unknown): void {
    if (!document.value) return
    document.value = withValue(document.value as unknown, path.split('/').filter(Boolean), value) as Show
  }

  async function step(which: 'undo' | 'redo'): Promise<void> {
    await sending
    try {
      await api.step(which)
    } catch (error) {
      complain(error)
    }
  }

  /** Id of the input that Hear shows; the main one when that is gone. */
  const chosenInput = ref(MAIN)
  const input = computed(
    () =>
      document.value?.inputs?.find((one) => one.id === chosenInput.value) ??
      document.value?.inputs?.[0] ??
      null,
  )
  const mainInput = computed(() => document.value?.inputs?.[0] ?? null)

  const look = computed(() => document.value?.looks.find((one) => one.id === document.value?.look) ?? null)
  const kind = (name: string): KindInfo | undefined => kinds.value.find((one) => one.kind === name)
  /** The parameters of a kind that have a say while its values are these. */
  const parametersOf = (name: string, values: object) =>
    (kind(name)?.parameters ?? []).filter(
      (one) => !one.when || String((values as Record<string, unknown>)[one.when[0]]) === one.when[1],
    )
  const slots = computed(() => new Map((layout.value?.slots ?? []).map((slot) => [slot.target, slot])))
  /** title: the name, and the input too where it is not the main one. */
  const signals = computed(() => {
    const inputs = new Map((layout.value?.inputs ?? []).map((one) => [one.id, one.name]))
    return new Map(
      (layout.value?.signals ?? []).map((signal, index) => [
        signal.id,
        {
          ...signal,
          index,
          title:
            signal.input === MAIN || !signal.input
              ? signal.name
              : `${signal.name} of ${inputs.get(signal.input)}`,
        },
      ]),
    )
  })

  const colour = (signal: string): string => signalColour(signals.value.get(signal))
  /** Where a route's numbers stand in the routes block: what comes in first, then each shaper's output, then what goes out. */
  const stages = computed(
    () =>
      new Map(
        (layout.value?.routes ?? []).map((one, place) => [
          one.id,
          { place, first: one.first, shapers: one.shapers, out: one.first + one.shapers.length + 1 },
        ]),
      ),
  )

  /** "Ring · radius" for a parameter's address. */
  function targetName(target: string): string {
    const slot = slots.value.get(target)
    if (!slot) return 'what is gone'
    const part = partNames.value.get(slot.part)
    return `${part ?? slot.part} · ${slot.parameter.title.toLowerCase()}`
  }

  const partNames = computed(() => {
    const names = new Map<string, string>()
    const taken = new Set<string>()
    // A second one of a kind is called by where it is, too: “Swell feedback”.
    const note = (part: Part, name?: string, where?: string): void => {
      const title = name ?? kind(part.kind)?.title ?? part.kind
      names.set(part.id, where && taken.has(title) ? `${where} ${title.toLowerCase()}` : title)
      taken.add(title)
    }
    for (const one of document.value?.looks ?? []) {
      for (const layer of one.layers ?? []) {
        note(layer.source, undefined, layer.name)
        layer.effects?.forEach((e) => note(e, undefined, layer.name))
        note(layer.mix, layer.name)
      }
      one.finish?.forEach((e) => note(e, undefined, one.name))
    }
    if (document.value?.crossing) note(document.value.crossing)
    for (const lamp of document.value?.lamps ?? []) note(lamp.fixture, lamp.name)
    for (const mover of document.value?.movers ?? []) note(mover.part, mover.name)
    return names
  })

  /** Ids of the parts of looks that are not shown: what moves only these is not to be seen now. */
  const unseen = computed(() => {
    const ids = new Set<string>()
    for (const one of document.value?.looks ?? []) {
      if (one.id === document.value?.look) continue
      for (const layer of one.layers ?? [])
        for (const part of [layer.source, ...(layer.effects ?? []), layer.mix]) ids.add(part.id)
      for (const part of one.finish ?? []) ids.add(part.id)
    }
    return ids
  })

  return {
    document,
    id,
    undoName,
    redoName,
    kinds,
    tracks,
    notice,
    chosenInput,
    input,
    mainInput,
    look,
    slots,
    signals,
    stages,
    colour,
    partNames,
    unseen,
    load,
    loadTracks,
    edit,
    set,
    step,
    kind,
    parametersOf,
    targetName,
    complain,
  }
})
