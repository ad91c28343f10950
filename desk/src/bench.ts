// What the bench and the parity test drive: the page's executor without the desk around it.
import type { Plan } from './shared/api'
import { Executor } from './picture/executor'
import { decode } from './shared/wire'

const bytes = (text: string): ArrayBuffer => Uint8Array.from(atob(text), (c) => c.charCodeAt(0)).buffer

Object.assign(window, {
  /** A frame message (base64) as plain values, or null. */
  decodeFrame(text: string) {
    const packet = decode(bytes(text))
    return packet && { ...packet, blocks: [...packet.blocks].map(([id, values]) => [id, [...values]]) }
  },
  /** Draw frames (base64 messages) of a plan in order; returns the last screen as base64 RGBA, bottom row first. */
  drawFrames(plan: Plan, frames: string[], width: number, height: number): string {
    const executor = new Executor(new OffscreenCanvas(width, height))
    executor.resize(width, height)
    executor.load(plan)
    for (const frame of frames) executor.draw(decode(bytes(frame))!, 1)
    const out = executor.pixels()
    let text = ''
    for (let i = 0; i < out.length; i += 8192) text += String.fromCharCode(...out.subarray(i, i + 8192))
    executor.dispose()
    return btoa(text)
  },
  /** Median milliseconds of each pass of a plan. */
  timePasses(plan: Plan, frame: string, width: number, height: number, repeats: number): Record<string, number> {
    const executor = new Executor(new OffscreenCanvas(width, height))
    executor.resize(width, height)
    executor.load(plan)
    const packet = decode(bytes(frame))!
    const out: Record<string, number> = {}
    for (const pass of executor.passes) {
      const times: number[] = []
      for (let i = 0; i < repeats + 3; i++) {
        const started = performance.now()
        executor.drawPass(pass, packet, 1)
        executor.finish(pass)
        if (i >= 3) times.push(performance.now() - started)
      }
      times.sort((a, b) => a - b)
      out[pass.fragment] = times[times.length >> 1]!
    }
    executor.dispose()
    return out
  },
})
document.title = 'ready'
