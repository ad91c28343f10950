// Runs beside the audio hardware: gathers blocks of 256 samples and hands them on, interleaved.
declare class AudioWorkletProcessor { readonly port: MessagePort }
declare function registerProcessor(name: string, processor: unknown): void

const BLOCK = 256

class Capture extends AudioWorkletProcessor {
  private waiting = new Float32Array(0)
  private filled = 0

  process(inputs: Float32Array[][]): boolean {
    const channels = inputs[0]
    if (!channels?.length) return true
    const count = Math.min(2, channels.length)
    if (this.waiting.length !== BLOCK * 2) this.waiting = new Float32Array(BLOCK * 2)
    for (let i = 0; i < channels[0]!.length; i++) {
      this.waiting[this.filled++] = channels[0]![i]!
      this.waiting[this.filled++] = channels[count - 1]![i]!
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
