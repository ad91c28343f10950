// Control changes of MIDI 1.0 controllers that this browser can reach, passed on to the show. 0xB0 to 0xBF is
// a
// control change on channels 1 to 16; its data are the controller's number and its value from 0 to 127.
import { sendFader } from './live'

let asked = false

/** Begin to listen, once; browsers without MIDI, and performers who refuse it, lose nothing else. */
export async function hearMidi(): Promise<void> {
  if (asked || !navigator.requestMIDIAccess) return
  asked = true
  try {
    const access = await navigator.requestMIDIAccess()
    const listen = (): void =>
      access.inputs.forEach((input) => {
        input.onmidimessage = ({ data }) => take(data)
      })
    access.onstatechange = listen
    listen()
  } catch {
    asked = false
  }
}

function take(data: Uint8Array | null | undefined): void {
  if (data?.length === 3 && (data[0]! & 0xf0) === 0xb0)
    sendFader(`midi ${(data[0]! & 0x0f) + 1} cc ${data[1]}`, data[2]! / 127)
}
