// A film's sound heard at the desk: at its picture's place, both ways, anew only when it is apart.
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { FilmSound } from '../src/hear/filmSound'

const SECONDS = 4
const RATE = 100

class Sound {
  numberOfChannels = 1
  duration = SECONDS
  private data = Float32Array.from({ length: SECONDS * RATE }, (_, at) => at)
  getChannelData(): Float32Array {
    return this.data
  }
  copyToChannel(data: Float32Array): void {
    this.data = data as Float32Array<ArrayBuffer>
  }
}
vi.stubGlobal('AudioBuffer', Sound)

class Context {
  currentTime = 0
  destination = {}
  begun: { at: number; rate: number; first: number }[] = []
  running = 0
  createGain(): unknown {
    const gain = { setTargetAtTime: vi.fn(), setValueAtTime: vi.fn(), value: 1 }
    return { gain, connect: () => undefined }
  }
  createBufferSource(): unknown {
    const made = {
      buffer: new Sound(),
      playbackRate: { value: 1 },
      connect: (next: unknown) => next,
      start: (_: number, at: number) => {
        this.running++
        this.begun.push({ at, rate: made.playbackRate.value, first: made.buffer.getChannelData()[0] })
      },
      stop: () => this.running--,
    }
    return made
  }
  decodeAudioData = async (): Promise<Sound> => new Sound()
}

describe('FilmSound', () => {
  let context: Context
  let sound: FilmSound

  beforeEach(async () => {
    vi.stubGlobal('fetch', async () => ({ ok: true, arrayBuffer: async () => new ArrayBuffer(0) }))
    context = new Context()
    sound = new FilmSound(context as unknown as BaseAudioContext)
    sound.follow({ at_s: 1, speed: 1, track: 'film' })
    await new Promise((done) => setTimeout(done, 0))
  })
  const follow = (at_s: number | null, speed: number): void => sound.follow({ at_s, speed, track: 'film' })

  it('begins where the picture is and runs on while it is near', () => {
    follow(1, 1)
    for (let step = 1; step < 10; step++) {
      context.currentTime = step / 10
      follow(1 + step / 10 + 0.03, 1)
    }
    expect(context.begun).toEqual([{ at: 1, rate: 1, first: 0 }])
  })

  it('begins anew where the picture was sent', () => {
    follow(1, 1)
    follow(3, 1)
    expect(context.begun.map(({ at }) => at)).toEqual([1, 3])
    expect(context.running).toBe(1)
  })

  it('goes backward, as fast as the picture', () => {
    follow(1, -2)
    expect(context.begun).toEqual([{ at: SECONDS - 1, rate: 2, first: SECONDS * RATE - 1 }])
    context.currentTime = 0.25
    expect(sound.place()).toBeCloseTo(0.5)
  })

  it('is silent while the picture stands, is hidden or is over', () => {
    for (const [at, speed] of [
      [2, 0],
      [null, 1],
      [SECONDS, 1],
    ] as const) {
      follow(1, 1)
      follow(at, speed)
      expect(context.running).toBe(0)
    }
  })
})
