// The films whose own sound an input listens to, each heard here in step with its picture.
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import { FilmSound } from './filmSound'

/** muted: nothing is to be heard here. playing: whether any film has something to say; asleep: the browser waits for a press. */
export function useFilmSounds(muted: Ref<boolean>) {
  const show = useShow()
  const films = computed(() =>
    (show.document?.inputs ?? []).filter(({ use, film }) => use === 'film' && film?.part && !film.muted),
  )
  const sounds = new Map<string, FilmSound>()
  const asleep = ref(false)
  let context: AudioContext | undefined

  function begun(): AudioContext {
    if (context) return context
    const made = new AudioContext()
    const look = (): void => void (asleep.value = made.state === 'suspended')
    made.onstatechange = look
    look()
    return (context = made)
  }
  watch([films, state, muted], ([inputs, { inputs: told }, quiet]) => {
    const heard = quiet ? [] : inputs
    for (const [id, sound] of sounds)
      if (!heard.some((input) => input.id === id)) {
        sound.stop()
        sounds.delete(id)
      }
    for (const { id } of heard) {
      if (!sounds.has(id!)) sounds.set(id!, new FilmSound(begun()))
      const film = told?.[id!]?.film
      // Until the browser lets it, nothing sounds, and no time goes by.
      if (film && !asleep.value) sounds.get(id!)!.follow(film)
    }
  })
  onBeforeUnmount(() => context?.close())
  return { playing: computed(() => films.value.length > 0), asleep, wake: () => context?.resume() }
}
