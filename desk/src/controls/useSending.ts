// A file on its way to the server: its name, how far it is, and a way to break it off.
import { ref } from 'vue'
import { useShow } from '../live/show'

export interface Sending {
  name: string
  share: number
  stop: AbortController
}

export function useSending() {
  const show = useShow()
  const sending = ref<Sending | null>(null)
  /** Send one file; what goes wrong is said, unless it was broken off. */
  async function send(
    name: string,
    work: (progress: (share: number) => void, stop: AbortSignal) => Promise<void>,
  ): Promise<void> {
    const stop = new AbortController()
    sending.value = { name, share: 0, stop }
    const progress = (share: number): void => {
      if (sending.value) sending.value = { ...sending.value, share }
    }
    try {
      await work(progress, stop.signal)
    } catch (error) {
      if (!stop.signal.aborted) show.complain(error)
    }
    sending.value = null
  }
  return { sending, send }
}
