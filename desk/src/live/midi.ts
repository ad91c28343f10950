// MIDI controllers that this browser can reach: what they say is passed on whole, and what they are to show
// goes back to them. What their messages mean is decided in Python.
import { ref } from 'vue'
import { act } from './live'
import { feedbackListeners } from './surface'

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

/** The same message that the control itself would send. */
export function midiOf(source: string, value: number): number[] {
  const [kind, channel, what, number] = source.split(' ')
  if (kind !== 'midi') return []
  const to = (Number(channel) - 1) & 15
  const seven = Math.round(value * 127)
  if (what === 'note') return [0x90 | to, Number(number), seven]
  if (what === 'cc') return [0xb0 | to, Number(number), seven]
  if (what !== 'bend') return []
  const whole = Math.round(value * 16383)
  return [0xe0 | to, whole & 127, whole >> 7]
}

function show(rows: [string, string, number][]): void {
  for (const [controller, source, value] of rows) {
    const message = midiOf(source, value)
    if (!message.length) continue
    access?.outputs.forEach((output) => {
      if (output.state === 'connected' && (!controller || output.name === controller)) output.send(message)
    })
  }
}
