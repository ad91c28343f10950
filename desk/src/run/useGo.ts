// Going through the night: cues and songs are asked for, or, in a rehearsal, only looked at.
import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { api, type Cue } from '../api/api'
import { act } from '../live/live'
import { useShow } from '../live/show'

const rehearsing = ref(false)
/** Id of the cue that a rehearsal has come to. */
const looked = ref('')

export function useGo(): {
  rehearsing: Ref<boolean>
  cues: ComputedRef<Cue[]>
  /** Where the night is, or the rehearsal of it. */
  at: ComputedRef<number>
  next: ComputedRef<Cue[]>
  ask: (cue?: string) => void
  back: () => void
  song: (which: string, song?: string) => void
  rehearse: (on: boolean) => void
} {
  const show = useShow()
  const cues = computed(() => show.document?.cues ?? [])
  const at = computed(() => {
    const id = rehearsing.value ? looked.value : show.document?.cue
    return cues.value.findIndex((cue) => cue.id === id)
  })
  const next = computed(() => cues.value.slice(at.value + 1, at.value + 4))
  const action = (kind: string, values: Record<string, unknown>): void =>
    act({
      event: 'action-done',
      action: { id: 'desk', family: 'action', kind, on: true, values },
      strength: 1,
      ended: false,
    })
  return {
    rehearsing,
    cues,
    at,
    next,
    ask(cue = ''): void {
      if (rehearsing.value) looked.value = cue || next.value[0]?.id || looked.value
      else api.cues.recall(cue).catch(show.complain)
    },
    back(): void {
      if (rehearsing.value) looked.value = cues.value[at.value - 1]?.id ?? ''
      else action('go-cue', { which: 'the one before' })
    },
    song: (which, song = '') => action('play-song', { which, song }),
    rehearse(on): void {
      rehearsing.value = on
      looked.value = show.document?.cue ?? ''
    },
  }
}
