// What the bench and the parity test drive: the page's executor without the desk around it.
import type { Plan } from './api/api'
import { Executor } from './picture/executor'
import { decode } from './live/wire'

const bytes = (text: string): ArrayBuffer => Uint8Array.from(atob(text), (c) => c.charCodeAt(0)).buffer

Object.assign(window, {
  /** A frame message (base64) as plain values, or null. */
  decodeFrame(text: string) {
    const packet = decode(bytes(text))
    return packet && { ...packet, blocks: [...packet.blocks].map(([id, values]) => [id, [...values]]) }
  },
  /**
   * Draw frames (base64 messages) of a plan in order; returns the last screen as base64 RGBA, bottom row
   * first.
   */
  async drawFrames(plan: Plan, frames: string[], width: number, height: number): Promise<string> {
    const executor = new Executor(new OffscreenCanvas(width, height), plan.clear_ground)
    executor.resize(width, height)
    executor.load(plan)
    await executor.ready()
    for (const frame of frames) {
      const packet = decode(bytes(frame))!
      await executor.ready(packet)
      executor.draw(packet, 1)
    }
    const out = executor.pixels()
    let text = ''
    for (let i = 0; i < out.length; i += 8192) text += String.fromCharCode(...out.subarray(i, i + 8192))
    executor.dispose()
    return btoa(text)
  },
  /** Median milliseconds of each pass of a plan. */
  timePasses(
    plan: Plan,
    frame: string,
    width: number,
    height: number,
    repeats: number,
  ): Record<string, number> {
    const executor = new Executor(new OffscreenCanvas(width, height))
    executor.resize(width, height)
    executor.load(plan)
    const packet = decode(bytes(frame))!
    const out: Record<string, number> = {}
    const texels = executor.upload(packet)
    for (const [index, pass] of executor.passes.entries()) {
      const times: number[] = []
      for (let i = 0; i < repeats + 3; i++) {
        const started = performance.now()
        executor.drawPass(index, packet, 1, texels)
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
/**
 * Median milliseconds of a full-screen copy written straight in WebGL2, without the executor: the yardstick.
 */
function timeBareCopy(plan: Plan, width: number, height: number, repeats: number): number {
  const gl = new OffscreenCanvas(width, height).getContext('webgl2', { alpha: false, antialias: false })!
  gl.getExtension('EXT_color_buffer_float')
  gl.bindVertexArray(gl.createVertexArray())
  const program = gl.createProgram()
  for (const [type, text] of [
    [gl.VERTEX_SHADER, plan.texts[plan.passes[0]!.vertex_text!]!],
    [gl.FRAGMENT_SHADER, plan.texts[plan.passes[0]!.fragment_text!]!],
  ] as const) {
    const shader = gl.createShader(type)!
    gl.shaderSource(shader, text)
    gl.compileShader(shader)
    gl.attachShader(program, shader)
  }
  gl.linkProgram(program)
  gl.useProgram(program)
  const [from, to] = [0, 1].map(() => {
    const texture = gl.createTexture()
    gl.bindTexture(gl.TEXTURE_2D, texture)
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA16F, width, height)
    for (const which of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
      gl.texParameteri(gl.TEXTURE_2D, which, gl.LINEAR)
    for (const which of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T])
      gl.texParameteri(gl.TEXTURE_2D, which, gl.CLAMP_TO_EDGE)
    return texture
  }) as [WebGLTexture, WebGLTexture]
  gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer())
  gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, to, 0)
  gl.bindTexture(gl.TEXTURE_2D, from)
  gl.viewport(0, 0, width, height)
  const times: number[] = []
  for (let i = 0; i < repeats + 3; i++) {
    const started = performance.now()
    gl.drawArrays(gl.TRIANGLES, 0, 3)
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.FLOAT, new Float32Array(4))
    if (i >= 3) times.push(performance.now() - started)
  }
  gl.getExtension('WEBGL_lose_context')?.loseContext()
  return times.sort((a, b) => a - b)[times.length >> 1]!
}
Object.assign(window, { timeBareCopy })
document.title = 'ready'
