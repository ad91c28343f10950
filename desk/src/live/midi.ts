// MIDI controllers that this browser can reach: what they say is passed on whole, and what they are to show
// goes back to them. What their messages mean is decided in Python.
import { ref } from 'vue'
import { act } from './live'
import { feedbackListeners, type FeedbackRow } from './surface'

let asked = false
let access: MIDIAccess | null = null
/** Names of controllers at this browser. */
export const controllers = ref<string[]>([])
export const refused = ref(false)
const SENSING = 0xfe

/** Begin to listen, once; browsers without MIDI, and performers who refuse it, lose nothing else. */
export async function hearMidi(): Promise<void> {
  if (asked || !navigator.requestMIDIAccess) return
  asked = true
  try {
    access = await navigator.requestMIDIAccess()
    access.onstatechange = look
    feedbackListeners.add(show)
    look()
    refused.value = false
  } catch {
    asked = false
    refused.value = true
  }
}

function look(): void {
  const there: string[] = []
  access?.inputs.forEach((input) => {
    if (input.state !== 'connected') return
    there.push(input.name ?? 'MIDI')
    input.onmidimessage = (event) => take(input.name ?? 'MIDI', event.data)
  })
  // What a controller held that was pulled out is let go.
  for (const gone of controllers.value.filter((name) => !there.includes(name)))
    act({ event: 'controller-gone', controller: gone })
  controllers.value = there
}

function take(controller: string, data: Uint8Array | null | undefined): void {
  if (data && data.length >= 1 && data.length <= 3 && data[0] !== SENSING)
    act({ event: 'midi-said', controller, data: [...data] })
}

function show(rows: FeedbackRow[]): void {
  for (const [controller, , , message] of rows) {
    if (!message.length) continue
    access?.outputs.forEach((output) => {
      if (output.state === 'connected' && (!controller || output.name === controller)) output.send(message)
    })
  }
}
