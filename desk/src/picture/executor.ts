// Draws plans that Python compiled: uploads, binds, draws. It holds no rule, no default and no shader text.
// Python's twin is src/fulgura/render/executor.py.
import type { Plan } from '../shared/api'
import { Block, type Packet } from '../shared/wire'

interface Target { texture: WebGLTexture; framebuffer: WebGLFramebuffer }
interface Program { program: WebGLProgram; places: Map<string, WebGLUniformLocation | null> }

const BLOCKS: Record<string, number> = { waveform: Block.waveform, spectrum: Block.spectrum }

export class Executor {
  private readonly gl: WebGL2RenderingContext
  private plan: Plan | null = null
  private programs = new Map<string, Program>()
  private targets = new Map<string, Target[]>()
  private blocks = new Map<string, WebGLTexture>()
  private lastNumber = -1
  width = 0
  height = 0

  /** Throws when the browser has no WebGL2 or cannot draw into 16-bit float targets. */
  constructor(private readonly canvas: HTMLCanvasElement | OffscreenCanvas) {
    const gl = canvas.getContext('webgl2', { alpha: false, antialias: false, depth: false, powerPreference: 'high-performance' }) as WebGL2RenderingContext | null
    if (!gl || !gl.getExtension('EXT_color_buffer_float')) throw new Error('This browser cannot draw the picture: WebGL2 with float targets is missing.')
    this.gl = gl
    gl.bindVertexArray(gl.createVertexArray())
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1)
  }

  load(plan: Plan): void {
    if (this.plan?.id === plan.id) return
    this.release()
    for (const [name, text] of Object.entries(plan.fragments)) this.programs.set(name, this.compile(plan.vertex, text))
    this.plan = plan
    this.makeTargets()
  }

  resize(width: number, height: number): void {
    if (width === this.width && height === this.height) return
    this.width = this.canvas.width = width
    this.height = this.canvas.height = height
    this.makeTargets()
  }

  /** Draw one frame; false when it belongs to another plan. steps: engine frames since the last draw. */
  draw(packet: Packet, steps?: number): boolean {
    const plan = this.plan
    // The first frames after a panel opens may have been sent before it asked for this block.
    if (!plan || packet.plan !== plan.id || !this.width || !packet.blocks.has(Block.uniforms)) return false
    const gone = steps ?? Math.min(6, Math.max(1, packet.number - this.lastNumber))
    this.lastNumber = packet.number
    for (const pass of plan.passes) this.drawPass(pass, packet, gone)
    for (const pair of this.targets.values()) pair.reverse()
    return true
  }

  drawPass(pass: Plan['passes'][number], packet: Packet, steps: number): void {
    const gl = this.gl
    const { program, places } = this.programs.get(pass.fragment)!
    const values = packet.blocks.get(Block.uniforms) as Float32Array
    gl.useProgram(program)
    pass.inputs.forEach((input, unit) => {
      gl.activeTexture(gl.TEXTURE0 + unit)
      if (input.block) this.upload(input.block, packet)
      else {
        const pair = this.targets.get(input.target!)!
        gl.bindTexture(gl.TEXTURE_2D, pair[input.previous ? pair.length - 1 : 0]!.texture)
      }
      gl.uniform1i(places.get(input.uniform) ?? null, unit)
    })
    for (const { name, offset, size } of pass.uniforms) {
      const place = places.get(name) ?? null
      if (size === 1) gl.uniform1f(place, values[offset]!)
      else gl.uniform3f(place, values[offset]!, values[offset + 1]!, values[offset + 2]!)
    }
    gl.uniform2f(places.get('u_size') ?? null, this.width, this.height)
    gl.uniform1f(places.get('u_steps') ?? null, steps)
    gl.bindFramebuffer(gl.FRAMEBUFFER, pass.target === 'screen' ? null : this.targets.get(pass.target)![0]!.framebuffer)
    gl.viewport(0, 0, this.width, this.height)
    if (pass.blend === 'over') {
      if (pass.clear) { gl.clearColor(0, 0, 0, 0); gl.clear(gl.COLOR_BUFFER_BIT) }
      gl.enable(gl.BLEND)
      gl.blendFunc(gl.ONE, gl.ONE_MINUS_SRC_ALPHA)
    } else gl.disable(gl.BLEND)
    gl.drawArrays(gl.TRIANGLES, 0, 3)
  }

  /** The screen as it was just drawn: RGBA, bottom row first. */
  pixels(): Uint8Array {
    const out = new Uint8Array(this.width * this.height * 4)
    this.gl.bindFramebuffer(this.gl.FRAMEBUFFER, null)
    this.gl.readPixels(0, 0, this.width, this.height, this.gl.RGBA, this.gl.UNSIGNED_BYTE, out)
    return out
  }

  /** Wait until a pass is drawn: reading one pixel of what it drew into does, where gl.finish() may not. */
  finish(pass: Plan['passes'][number]): void {
    const gl = this.gl
    gl.bindFramebuffer(gl.FRAMEBUFFER, pass.target === 'screen' ? null : this.targets.get(pass.target)![0]!.framebuffer)
    if (pass.target === 'screen') gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
    else gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.FLOAT, new Float32Array(4))
  }

  get passes(): Plan['passes'] { return this.plan?.passes ?? [] }

  private upload(name: string, packet: Packet): void {
    const gl = this.gl
    const values = packet.blocks.get(BLOCKS[name]!)
    let texture = this.blocks.get(name)
    if (!texture) {
      texture = gl.createTexture()
      this.blocks.set(name, texture)
      gl.bindTexture(gl.TEXTURE_2D, texture)
      this.filter()
    }
    gl.bindTexture(gl.TEXTURE_2D, texture)
    if (!values) return
    if (values instanceof Uint8Array) gl.texImage2D(gl.TEXTURE_2D, 0, gl.R8, values.length, 1, 0, gl.RED, gl.UNSIGNED_BYTE, values)
    else gl.texImage2D(gl.TEXTURE_2D, 0, gl.R16F, values.length, 1, 0, gl.RED, gl.FLOAT, values as Float32Array)
  }

  private filter(): void {
    const gl = this.gl
    for (const which of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(gl.TEXTURE_2D, which, gl.LINEAR)
    for (const which of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T]) gl.texParameteri(gl.TEXTURE_2D, which, gl.CLAMP_TO_EDGE)
  }

  private makeTargets(): void {
    for (const pair of this.targets.values()) pair.forEach((target) => this.dropTarget(target))
    this.targets.clear()
    if (!this.plan || !this.width) return
    for (const { name, history } of this.plan.targets) this.targets.set(name, Array.from({ length: history ? 2 : 1 }, () => this.makeTarget()))
  }

  private makeTarget(): Target {
    const gl = this.gl
    const texture = gl.createTexture()
    gl.bindTexture(gl.TEXTURE_2D, texture)
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA16F, this.width, this.height)
    this.filter()
    const framebuffer = gl.createFramebuffer()
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer)
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0)
    gl.clearColor(0, 0, 0, 0)
    gl.clear(gl.COLOR_BUFFER_BIT)
    return { texture, framebuffer }
  }

  private dropTarget(target: Target): void {
    this.gl.deleteTexture(target.texture)
    this.gl.deleteFramebuffer(target.framebuffer)
  }

  private compile(vertex: string, fragment: string): Program {
    const gl = this.gl
    const program = gl.createProgram()
    for (const [type, text] of [[gl.VERTEX_SHADER, vertex], [gl.FRAGMENT_SHADER, fragment]] as const) {
      const shader = gl.createShader(type)!
      gl.shaderSource(shader, text)
      gl.compileShader(shader)
      if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS)) throw new Error(gl.getShaderInfoLog(shader) ?? 'A shader did not compile.')
      gl.attachShader(program, shader)
      gl.deleteShader(shader)
    }
    gl.linkProgram(program)
    if (!gl.getProgramParameter(program, gl.LINK_STATUS)) throw new Error(gl.getProgramInfoLog(program) ?? 'A shader did not link.')
    const places = new Map<string, WebGLUniformLocation | null>()
    for (let i = gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS) as number; i-- > 0; ) {
      const name = gl.getActiveUniform(program, i)!.name
      places.set(name, gl.getUniformLocation(program, name))
    }
    return { program, places }
  }

  release(): void {
    for (const { program } of this.programs.values()) this.gl.deleteProgram(program)
    for (const pair of this.targets.values()) pair.forEach((target) => this.dropTarget(target))
    for (const texture of this.blocks.values()) this.gl.deleteTexture(texture)
    this.programs.clear()
    this.targets.clear()
    this.blocks.clear()
    this.plan = null
  }

  /** Give everything back, the context too: browsers keep only a few, and a column is opened and closed all night. */
  dispose(): void {
    this.release()
    this.gl.getExtension('WEBGL_lose_context')?.loseContext()
  }
}
