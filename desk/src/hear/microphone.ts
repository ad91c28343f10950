// A browser's microphone or line into the engine: getUserMedia, an AudioWorklet, a socket. Music wants the raw
// sound, so the browser's voice processing is switched off.
import { ref } from 'vue'
import workletUrl from './capture.worklet.ts?worker&url'

export type MicrophoneState = 'off' | 'asking' | 'sending' | 'refused' | 'missing' | 'taken' | 'lost'

export const microphone = ref<MicrophoneState>('off')
export const devices = ref<{ id: string; label: string }[]>([])
let stream: MediaStream | null = null
let context: AudioContext | null = null
let socket: WebSocket | null = null
let wanted = false

export async function startMicrophone(device: string): Promise<void> {
  stopMicrophone()
  wanted = true
  microphone.value = 'asking'
  try {
    if (!navigator.mediaDevices) throw new DOMException('', 'NotFoundError')
    stream = await navigator.mediaDevices.getUserMedia({
      audio: { deviceId: device ? { exact: device } : undefined, echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: { ideal: 2 } },
    })
  } catch (error) {
    const name = (error as DOMException).name
    microphone.value = name === 'NotAllowedError' || name === 'SecurityError' ? 'refused' : 'missing'
    return
  }
  stream.getAudioTracks()[0]!.onended = () => { microphone.value = 'lost'; closeSound() }
  await listDevices()
  context = new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' })
  await context.audioWorklet.addModule(workletUrl)
  const capture = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 })
  context.createMediaStreamSource(stream).connect(capture)
  capture.port.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
    // A socket that cannot keep up loses sound rather than adding delay.
    if (socket?.readyState === WebSocket.OPEN && socket.bufferedAmount < 65_536) socket.send(data)
  }
  await context.resume()
  openSocket()
}

function openSocket(): void {
  socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/v1/audio?channels=2&rate=48000`)
  socket.onopen = () => { microphone.value = 'sending' }
  socket.onclose = ({ code }) => {
    if (!wanted || !stream) return
    if (code === 4000) { microphone.value = 'taken'; closeSound(); return }
    setTimeout(() => { if (wanted && stream) openSocket() }, 500)
  }
}

export async function listDevices(): Promise<void> {
  const all = (await navigator.mediaDevices?.enumerateDevices()) ?? []
  devices.value = all.filter((one) => one.kind === 'audioinput').map((one, i) => ({ id: one.deviceId, label: one.label || `Device ${i + 1}` }))
}

export function stopMicrophone(): void {
  wanted = false
  closeSound()
  microphone.value = 'off'
}

function closeSound(): void {
  stream?.getTracks().forEach((track) => track.stop())
  stream = null
  void context?.close()
  context = null
  socket?.close()
  socket = null
}
navigator.mediaDevices?.addEventListener('devicechange', () => void listDevices())
