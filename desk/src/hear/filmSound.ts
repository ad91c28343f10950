// The own sound of a film, heard here where its picture is: as fast, and backward too.
const APART_S = 0.12
const FADE_S = 0.02
/** Slower than this it stands. */
const STILL = 0.02

export class FilmSound {
  private track = ''
  private forward: AudioBuffer | null = null
  private backward: AudioBuffer | null = null
  private node: { source: AudioBufferSourceNode; gain: GainNode } | null = null
  /** When what sounds began, on the context's clock, and where in the film. */
  private began = { when: 0, at: 0, speed: 0 }

  constructor(private context: BaseAudioContext) {}

  /** Where the picture is, in seconds of film, and how many of them go by in a second: backward below 0. */
  follow(film: { at_s: number | null; speed: number; track: string }): void {
    if (film.track !== this.track) void this.load(film.track)
    const { at_s: at, speed } = film
    if (!this.forward || at === null || Math.abs(speed) < STILL || at >= this.forward.duration) {
      this.stop()
      return
    }
    const goes = this.node && Math.abs(speed - this.began.speed) < STILL
    if (!goes || Math.abs(this.place() - at) > APART_S * Math.abs(speed)) this.start(at, speed)
  }

  /** Where in the film what sounds now is. */
  place(): number {
    return this.began.at + (this.context.currentTime - this.began.when) * this.began.speed
  }

  stop(): void {
    if (!this.node) return
    const { source, gain } = this.node
    gain.gain.setTargetAtTime(0, this.context.currentTime, FADE_S / 4)
    source.stop(this.context.currentTime + FADE_S)
    this.node = null
  }

  private start(at: number, speed: number): void {
    this.stop()
    const forward = this.forward!
    const source = this.context.createBufferSource()
    source.buffer = speed > 0 ? forward : this.turned(forward)
    source.playbackRate.value = Math.abs(speed)
    const gain = this.context.createGain()
    gain.gain.setValueAtTime(0, this.context.currentTime)
    gain.gain.setTargetAtTime(1, this.context.currentTime, FADE_S / 4)
    source.connect(gain).connect(this.context.destination)
    source.start(0, speed > 0 ? at : forward.duration - at)
    this.node = { source, gain }
    this.began = { when: this.context.currentTime, at, speed }
  }

  private turned(forward: AudioBuffer): AudioBuffer {
    if (!this.backward) {
      this.backward = new AudioBuffer(forward)
      for (let k = 0; k < forward.numberOfChannels; k++)
        this.backward.copyToChannel(forward.getChannelData(k).slice().reverse(), k)
    }
    return this.backward
  }

  private async load(track: string): Promise<void> {
    this.stop()
    this.track = track
    this.forward = this.backward = null
    if (!track) return
    try {
      const answer = await fetch(`/api/v1/tracks/${encodeURIComponent(track)}/audio`)
      if (!answer.ok) return
      const sound = await this.context.decodeAudioData(await answer.arrayBuffer())
      if (this.track === track) this.forward = sound
    } catch {
      // What cannot be fetched or read is silent here; the input itself says what is wrong with it.
    }
  }
}
