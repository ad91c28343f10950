// The open show on this desk: its document, what it can be made of, and what its signals and parameters are
// called.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Refusal, type KindInfo, type Part, type Rules, type Show, type Track } from '../api/api'
import { signalColour } from '../tokens'
import { DocumentCopy } from './document'
import { layout, saidNews, state } from './live'

/** The input that every show has. */
export const MAIN = 'main'
const NO_RULES: Rules = {
  mixes: [],
  least_band_ratio: 1,
  confident: 1,
  most_flashes: 1,
  words_why: 1,
}

type Document = DocumentCopy['document']

export const useShow = defineStore('show', () => {
  const notice = ref<{ title: string; detail: string } | null>(null)
  function complain(error: unknown): void {
    notice.value =
      error instanceof Refusal
        ? { title: error.problem.title, detail: error.problem.detail }
        : { title: 'That did not work', detail: String(error) }
  }
  watch(saidNews, (said) => (notice.value = said))
  const copy = new DocumentCopy(complain)
  copy.follow()
  const catalogue = useCatalogue(complain)
  const { document, id, names, palette, undoName, redoName } = copy
  const edit = copy.edit.bind(copy)
  return {
    ...{ document, id, names, palette, undoName, redoName, notice, complain, edit },
    set: (path: string, value: unknown, name: string, gesture = '') =>
      edit({ edit: 'set', path, value }, name, gesture),
    /** All dark, or all lit again: whatever it was that was dark. */
    toggleBlackout(): void {
      if (document.value)
        edit(
          { edit: 'set', path: '/blackout', value: document.value.blackout === 'off' ? 'all' : 'off' },
          'Blackout',
        )
    },
    step: copy.step.bind(copy),
    ...catalogue,
    ...useSignals(),
    ...useIndices(names, document),
    ...useChosen(document),
    ...useArriving(document),
    unseen: useUnseen(document),
  }
})

/** What shows can be made of: kinds, rules, tracks. */
function useCatalogue(complain: (error: unknown) => void) {
  const kinds = shallowRef<KindInfo[]>([])
  const tracks = shallowRef<Track[]>([])
  const rules = shallowRef<Rules>(NO_RULES)
  async function load(): Promise<void> {
    try {
      ;[kinds.value, tracks.value, rules.value] = await Promise.all([api.kinds(), api.tracks(), api.rules()])
    } catch (error) {
      complain(error)
      setTimeout(load, 1000)
    }
  }
  async function loadTracks(): Promise<void> {
    tracks.value = await api.tracks()
  }
  watch(
    () => state.value.library,
    (now, before) => {
      if (before !== undefined && now !== before) loadTracks().catch(complain)
    },
  )
  const byName = computed(() => new Map(kinds.value.map((kind) => [`${kind.family} ${kind.kind}`, kind])))
  const kind = (family: string, name: string): KindInfo | undefined => byName.value.get(`${family} ${name}`)
  const kindOf = (part: Part): KindInfo | undefined => kind(part.family ?? '', part.kind)
  /** The parameters of a kind that have a say while its values are these. */
  const parametersOf = (info: KindInfo | undefined, values: object) =>
    (info?.parameters ?? []).filter(
      (parameter) =>
        !parameter.when ||
        String((values as Record<string, unknown>)[parameter.when[0]]) === parameter.when[1],
    )
  return { kinds, tracks, rules, load, loadTracks, kind, kindOf, parametersOf }
}

function useSignals() {
  /** title: the name, and the input too where it is not the main one. */
  const signals = computed(() => {
    const inputs = new Map((layout.value?.inputs ?? []).map((input) => [input.id, input.name]))
    return new Map(
      (layout.value?.signals ?? []).map((signal, index) => {
        const own = signal.input === MAIN || !signal.input
        const title = own ? signal.name : `${signal.name} of ${inputs.get(signal.input)}`
        return [signal.id, { ...signal, index, title }]
      }),
    )
  })
  const colour = (signal: string): string => signalColour(signals.value.get(signal))
  /**
   * Where a route's numbers stand in the routes block: what comes in first, then each shaper's output, then
   * what goes out.
   */
  const stages = computed(
    () =>
      new Map(
        (layout.value?.routes ?? []).map((route, index) => [
          route.id,
          { index, first: route.first, shapers: route.shapers, out: route.first + route.shapers.length + 1 },
        ]),
      ),
  )
  return { signals, colour, stages }
}

/** Where parameters stand in the live block, and what they and their parts are called. */
function useIndices(names: DocumentCopy['names'], document: Document) {
  const indices = computed(() => new Map((layout.value?.indices ?? []).map((entry) => [entry.target, entry])))
  const partNames = computed(() => new Map(Object.entries(names.value)))
  /** "Ring · radius" for a parameter's address. */
  function targetName(target: string): string {
    const [owner, name] = target.split('.') as [string, string]
    const [what, route, step] = owner.split('@')
    if (what === 'route' || what === 'step') return routeTarget(route!, step ?? '', name)
    const entry = indices.value.get(target)
    if (!entry) return 'what is gone'
    return `${partNames.value.get(entry.part) ?? entry.part} · ${entry.parameter.title.toLowerCase()}`
  }
  /** Of what of a route is moved itself: “Kick → Ring · radius: pulse · decay”. */
  function routeTarget(id: string, step: string, name: string): string {
    const route = document.value?.routes?.find((each) => each.id === id)
    const kind = route?.shapers?.find((part) => part.id === step)?.kind
    if (!route || (step && !kind)) return 'what is gone'
    const heard = layout.value?.signals.find((signal) => signal.id === route.signal)?.name ?? 'what is gone'
    return `${heard} → ${targetName(route.targets[0]!)}${kind ? `: ${kind}` : ''} · ${name.replaceAll('_', ' ')}`
  }
  return { indices, partNames, targetName }
}

function useChosen(document: Document) {
  /** Id of the input that Hear shows; the main one when that is gone. */
  const chosenInput = ref(MAIN)
  const inputs = computed(() => document.value?.inputs ?? [])
  const input = computed(
    () => inputs.value.find((input) => input.id === chosenInput.value) ?? inputs.value[0] ?? null,
  )
  const mainInput = computed(() => inputs.value[0] ?? null)
  const look = computed(() => document.value?.looks.find((look) => look.id === document.value?.look) ?? null)
  return { chosenInput, input, mainInput, look }
}

/** A look that is being made: its id comes with the answer. */
export interface Making {
  id: Promise<string>
}
/** Longer than any answer takes that comes at all. */
const LONGEST_MS = 20_000

/** What is being made: gestures that begin meanwhile go to it. */
function useArriving(document: Document) {
  const making = shallowRef<Making | null>(null)
  /** Id of the look that a gesture means which begins now. */
  const lookNow = async (): Promise<string> =>
    making.value ? await making.value.id : (document.value?.look ?? '')
  /** Wait until the document has something: news of it come a moment after the answer. */
  function arrived(there: (show: Show) => boolean): Promise<boolean> {
    return new Promise((resolve) => {
      let stop = (): void => undefined
      const end = (found: boolean): void => {
        clearTimeout(late)
        queueMicrotask(() => stop())
        resolve(found)
      }
      const late = setTimeout(() => end(false), LONGEST_MS)
      stop = watch(document, (show) => show && there(show) && end(true), { immediate: true, flush: 'sync' })
    })
  }
  /** Make a look: it is waited for by all that is meant for it. */
  async function makeLook(make: () => Promise<{ id: string }>): Promise<void> {
    const id = make().then((made) => made.id)
    const mine: Making = { id }
    making.value = mine
    try {
      const look = await id
      await arrived((show) => show.looks?.some((each) => each.id === look) ?? false)
    } finally {
      if (making.value === mine) making.value = null
    }
  }
  return { making, lookNow, arrived, makeLook }
}

/** Ids of the parts of looks that are not shown: what moves only these is not to be seen now. */
function useUnseen(document: Document) {
  return computed(() => {
    const ids = new Set<string>()
    for (const look of document.value?.looks ?? []) {
      if (look.id === document.value?.look) continue
      const parts = (look.layers ?? []).flatMap((layer) => [
        layer.source,
        ...(layer.effects ?? []),
        layer.mix,
      ])
      for (const part of [...parts, ...(look.finish ?? [])]) ids.add(part.id)
    }
    return ids
  })
}
