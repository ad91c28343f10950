// Runs beside the audio hardware: takes two of the channels, gathers blocks of 256 samples and hands them on,
// interleaved.
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: unknown): void

const BLOCK = 256

class Capture extends AudioWorkletProcessor {
  private waiting = new Float32Array(BLOCK * 2)
  private filled = 0
  private readonly left: number
  private readonly right: number

  constructor({ processorOptions }: { processorOptions: { left: number; right: number } }) {
    super()
    this.left = processorOptions.left - 1
    this.right = processorOptions.right - 1
  }

  process(inputs: Float32Array[][]): boolean {
    const channels = inputs[0]
    if (!channels?.length) return true
    // A device with fewer channels than were asked for gives its last.
    const left = channels[Math.min(this.left, channels.length - 1)]!
    const right = channels[Math.min(this.right, channels.length - 1)]!
    for (let i = 0; i < left.length; i++) {
      this.waiting[this.filled++] = left[i]!
      this.waiting[this.filled++] = right[i]!
      if (this.filled === BLOCK * 2) {
        this.port.postMessage(this.waiting.buffer, [this.waiting.buffer])
        this.waiting = new Float32Array(BLOCK * 2)
        this.filled = 0
      }
    }
    return true
  }
}
registerProcessor('capture', Capture)
