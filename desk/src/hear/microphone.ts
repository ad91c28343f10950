// Sound of a browser into the engine: a microphone, a line, or another page that is shared. getUserMedia (or
// getDisplayMedia), an AudioWorklet, a socket. Music wants the raw sound, so voice processing is switched
// off.
import { reactive, ref } from 'vue'
import workletUrl from './capture.worklet.ts?worker&url'

export type CaptureState =
  'off' | 'asking' | 'sending' | 'refused' | 'missing' | 'taken' | 'lost' | 'ended' | 'soundless'

/** What a live input calls a page that is chosen when it starts. */
export const SHARED = 'shared'
const RAW = { echoCancellation: false, noiseSuppression: false, autoGainControl: false }
const RETRY_MS = 2000

export const devices = ref<{ id: string; label: string }[]>([])

/** What this page sends to one input. */
class Capture {
  state: CaptureState = 'off'
  channels = 2
  private stream: MediaStream | null = null
  private context: AudioContext | null = null
  private socket: WebSocket | null = null
  private retry = 0
  private wanted: { device: string; left: number; right: number } | null = null

  constructor(readonly input: string) {}

  async start(device: string, left: number, right: number): Promise<void> {
    this.stop()
    this.wanted = { device, left, right }
    this.state = 'asking'
    await this.open()
  }

  stop(): void {
    this.wanted = null
    clearTimeout(this.retry)
    this.close()
    this.state = 'off'
  }

  /** A device that was lost is taken back as soon as it is there; nobody has to press anything. */
  private async lose(): Promise<void> {
    this.close()
    if (!this.wanted) return
    if (this.wanted.device === SHARED) {
      this.wanted = null
      this.state = 'ended'
      return
    }
    this.state = 'lost'
    this.retry = window.setTimeout(() => void this.open(true), RETRY_MS)
  }

  private async open(again = false): Promise<void> {
    const wanted = this.wanted
    if (!wanted) return
    try {
      if (!navigator.mediaDevices) throw new DOMException('', 'NotFoundError')
      // A browser shares a page's sound only together with its picture; that is not looked at.
      this.stream =
        wanted.device === SHARED
          ? await navigator.mediaDevices.getDisplayMedia({ audio: RAW, video: true })
          : await navigator.mediaDevices.getUserMedia({
              audio: {
                ...RAW,
                deviceId: wanted.device ? { exact: wanted.device } : undefined,
                channelCount: { ideal: Math.max(2, wanted.left, wanted.right) },
              },
            })
    } catch (error) {
      const name = (error as DOMException).name
      if (again) {
        void this.lose()
        return
      }
      this.state = name === 'NotAllowedError' || name === 'SecurityError' ? 'refused' : 'missing'
      return
    }
    if (this.wanted !== wanted) {
      this.stream.getTracks().forEach((track) => track.stop())
      return
    }
    const track = this.stream.getAudioTracks()[0]
    if (!track) {
      this.close()
      this.wanted = null
      this.state = 'soundless'
      return
    }
    track.onended = () => void this.lose()
    await listDevices()
    this.channels = track.getSettings().channelCount ?? 2
    const context = (this.context = new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' }))
    await context.audioWorklet.addModule(workletUrl)
    const capture = new AudioWorkletNode(context, 'capture', {
      numberOfOutputs: 0,
      channelCount: Math.max(2, this.channels),
      channelCountMode: 'max',
      processorOptions: { left: wanted.left, right: wanted.right },
    })
    context.createMediaStreamSource(this.stream).connect(capture)
    capture.port.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
      // A socket that cannot keep up loses sound rather than adding delay.
      if (this.socket?.readyState === WebSocket.OPEN && this.socket.bufferedAmount < 65_536)
        this.socket.send(data)
    }
    await context.resume()
    this.openSocket()
  }

  private openSocket(): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws'
    const socket = (this.socket = new WebSocket(
      `${scheme}://${location.host}/api/v1/audio?input=${this.input}&channels=2&rate=48000`,
    ))
    socket.onopen = () => {
      this.state = 'sending'
    }
    socket.onclose = ({ code }) => {
      if (!this.wanted || this.socket !== socket) return
      if (code === 4000) {
        this.wanted = null
        this.state = 'taken'
        this.close()
        return
      }
      setTimeout(() => {
        if (this.wanted && this.stream && this.socket === socket) this.openSocket()
      }, 500)
    }
  }

  private close(): void {
    this.stream?.getTracks().forEach((track) => {
      track.onended = null
      track.stop()
    })
    this.stream = null
    void this.context?.close()
    this.context = null
    const socket = this.socket
    this.socket = null
    socket?.close()
  }
}

const captures = reactive(new Map<string, Capture>())

/** The capture of an input; there is one for each that this page has ever shown. */
export function captureOf(input: string): Capture {
  if (!captures.has(input)) captures.set(input, new Capture(input))
  return captures.get(input)! as Capture
}

export async function listDevices(): Promise<void> {
  const all = (await navigator.mediaDevices?.enumerateDevices()) ?? []
  devices.value = all
    .filter((device) => device.kind === 'audioinput')
    .map((device, i) => ({ id: device.deviceId, label: device.label || `Device ${i + 1}` }))
}
navigator.mediaDevices?.addEventListener('devicechange', () => void listDevices())
