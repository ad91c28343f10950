// Draws plans that Python compiled: uploads, binds, draws. It holds no rule, no default and no shader text.
// Python's twin is src/fulgura/render/executor.py.
import type { Plan } from '../api/api'
import { Block, type Packet } from '../live/wire'
import { Programs } from './programs'
import { Targets } from './targets'
import { Textures } from './textures'

type Pass = Plan['passes'][number]
/** Frames that were missed count as gone by, but no more than this. */
const MOST_STEPS = 6
/** Below 15 pictures a second there are too many; above 40 there may be more. */
const TOO_FEW = 0.25
const ENOUGH = 0.67
const LEAST_SHARE = 0.02

/** By which plan the packet's picture of this number is drawn. */
function idOf(packet: Packet, number: number): number | undefined {
  return number ? packet.blocks.get(Block.pictures)?.[number - 1] : packet.plan
}

export class Executor {
  private readonly gl: WebGL2RenderingContext
  private readonly programs: Programs
  private readonly targets: Targets
  private readonly textures: Textures
  private plan: Plan | null = null
  private lastNumber = -1
  /** How often feedback had been cleared. */
  private clears: number | undefined
  width = 0
  height = 0
  /** The share that is drawn of what there can be too many of. */
  private share = 1

  /** The graphics context was taken away; its own event comes a little later. */
  get lost(): boolean {
    return this.gl.isContextLost()
  }

  /** alpha: whether the page shines through. Throws when the browser has no WebGL2 or cannot draw into 16-bit float targets. */
  constructor(
    private readonly canvas: HTMLCanvasElement | OffscreenCanvas,
    alpha = false,
  ) {
    const gl = canvas.getContext('webgl2', {
      alpha,
      antialias: false,
      depth: false,
      powerPreference: 'high-performance',
    }) as WebGL2RenderingContext | null
    if (!gl || !gl.getExtension('EXT_color_buffer_float'))
      throw new Error('This browser cannot draw the picture: WebGL2 with float targets is missing.')
    this.gl = gl
    this.programs = new Programs(gl)
    this.targets = new Targets(gl)
    this.textures = new Textures(gl)
    gl.bindVertexArray(gl.createVertexArray())
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1)
  }

  /** What of the plan cannot be drawn here; empty for nothing. */
  get fault(): string {
    return this.programs.fault
  }

  get passes(): Plan['passes'] {
    return this.plan?.passes ?? []
  }

  /**
   * Take a plan over. What it has in common with the last one stays, so that feedback goes on where it was.
   */
  load(plan: Plan): void {
    if (this.plan?.id === plan.id) return
    this.programs.load(plan)
    this.textures.load(plan)
    this.plan = plan
    this.makeTargets()
  }

  resize(width: number, height: number): void {
    if (width === this.width && height === this.height) return
    this.width = this.canvas.width = width
    this.height = this.canvas.height = height
    this.targets.dropAll()
    this.makeTargets()
  }

  private makeTargets(): void {
    if (this.plan && this.width) this.targets.make(this.plan, this.width, this.height)
  }

  /** Resolves when every fixed picture of the plan is there, and of a frame every clip's. */
  ready(packet?: Packet): Promise<void> {
    return this.textures.ready(packet)
  }

  /** Put the plan's data blocks into their textures; how many texels each has. */
  upload(packet: Packet): Map<string, number> {
    return this.textures.upload(packet)
  }

  /** Draw one frame; false when it belongs to another plan. steps: engine frames since the last draw. */
  draw(packet: Packet, steps?: number): boolean {
    const plan = this.plan
    // The first frames after a panel opens may have been sent before it asked for this block.
    if (!plan || idOf(packet, plan.number ?? 0) !== (plan.drawn || plan.id) || !this.width) return false
    if (!packet.blocks.has(plan.uniforms!)) return false
    const [frozen, clears] = packet.blocks.get(plan.standing!) ?? [0, this.clears]
    // What is cleared while it stands still is drawn once more.
    if (frozen && this.lastNumber >= 0 && clears === this.clears) return true
    if (clears !== this.clears && this.clears !== undefined) this.targets.forget()
    this.clears = clears
    const gone = steps ?? Math.min(MOST_STEPS, Math.max(1, packet.number - this.lastNumber))
    this.lastNumber = packet.number
    const texels = this.upload(packet)
    for (let i = 0; i < plan.passes.length; i++) this.drawPass(i, packet, gone, texels)
    this.targets.turn()
    return true
  }

  drawPass(index: number, packet: Packet, steps: number, texels: Map<string, number>): void {
    const gl = this.gl
    const pass = this.plan!.passes[index]!
    const made = this.programs.of(index)
    if (!made) return
    const { program, locations } = made
    gl.useProgram(program)
    this.bindInputs(pass, locations)
    const values = packet.blocks.get(this.plan!.uniforms!) as Float32Array
    for (const { name, offset, size } of pass.uniforms) {
      const location = locations.get(name) ?? null
      if (size === 1) gl.uniform1f(location, values[offset]!)
      else gl.uniform3f(location, values[offset]!, values[offset + 1]!, values[offset + 2]!)
    }
    gl.uniform1f(locations.get('u_steps') ?? null, steps)
    gl.uniform1f(locations.get('u_time') ?? null, packet.time)
    const target = pass.target === 'screen' ? null : this.targets.of(pass.target)
    const { width, height } = target ?? this
    gl.uniform2f(locations.get('u_size') ?? null, width, height)
    gl.bindFramebuffer(gl.FRAMEBUFFER, target?.framebuffer ?? null)
    gl.viewport(0, 0, width, height)
    if (pass.clear) gl.clear(gl.COLOR_BUFFER_BIT | (pass.depth ? gl.DEPTH_BUFFER_BIT : 0))
    this.turn(gl.DEPTH_TEST, pass.depth)
    this.turn(gl.BLEND, pass.blend !== 'none')
    if (pass.blend !== 'none') gl.blendFunc(gl.ONE, pass.blend === 'add' ? gl.ONE : gl.ONE_MINUS_SRC_ALPHA)
    const instances = pass.each ? (texels.get(pass.each) ?? 0) : this.instances(pass)
    if (instances === 1) gl.drawArrays(gl.TRIANGLES, 0, pass.vertices)
    else gl.drawArraysInstanced(gl.TRIANGLES, 0, pass.vertices, instances)
  }

  private instances(pass: Pass): number {
    return pass.thinned ? Math.max(1, Math.round(pass.instances! * this.share)) : pass.instances!
  }

  /**
   * Draw fewer of what there can be too many of while the picture does not keep up, and more once it does.
   * kept: the share of the frames that were drawn.
   */
  thin(kept: number): void {
    if (kept < TOO_FEW) this.share = Math.max(LEAST_SHARE, this.share * kept * 3)
    else if (kept > ENOUGH) this.share = Math.min(1, this.share * 1.25)
  }

  /** How many are drawn of how many there are; the same while all are. */
  get thinned(): [number, number] {
    const passes = this.passes.filter((pass) => pass.thinned)
    const sum = (of: (pass: Pass) => number): number => passes.reduce((all, pass) => all + of(pass), 0)
    return [sum((pass) => this.instances(pass)), sum((pass) => pass.instances!)]
  }

  private bindInputs(pass: Pass, locations: Map<string, WebGLUniformLocation | null>): void {
    const gl = this.gl
    pass.inputs.forEach((input, unit) => {
      gl.activeTexture(gl.TEXTURE0 + unit)
      const texture = input.target
        ? this.targets.of(input.target, input.history_offset ?? 0).texture
        : this.textures.of(input.data ?? input.image ?? input.clip ?? '')
      gl.bindTexture(gl.TEXTURE_2D, texture)
      gl.uniform1i(locations.get(input.uniform) ?? null, unit)
      const newest = input.data ? this.textures.rings.newest(input.data) : undefined
      if (newest !== undefined) gl.uniform1f(locations.get(`${input.uniform}_newest`) ?? null, newest)
    })
  }

  /** What a target holds since the last draw, as floats: for what the guard says. */
  values(name: string): Float32Array {
    const { gl } = this
    const { framebuffer, width, height } = this.targets.last(name)
    const out = new Float32Array(width * height * 4)
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer)
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.FLOAT, out)
    return out
  }

  private turn(what: number, on: boolean): void {
    if (on) this.gl.enable(what)
    else this.gl.disable(what)
  }

  /** The screen as it was just drawn: RGBA, bottom row first. */
  pixels(): Uint8Array {
    const out = new Uint8Array(this.width * this.height * 4)
    this.gl.bindFramebuffer(this.gl.FRAMEBUFFER, null)
    this.gl.readPixels(0, 0, this.width, this.height, this.gl.RGBA, this.gl.UNSIGNED_BYTE, out)
    return out
  }

  /** Wait until a pass is drawn: reading one pixel of what it drew into does, where gl.finish() may not. */
  finish(pass: Pass): void {
    const gl = this.gl
    const screen = pass.target === 'screen'
    gl.bindFramebuffer(gl.FRAMEBUFFER, screen ? null : this.targets.of(pass.target).framebuffer)
    if (screen) gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
    else gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.FLOAT, new Float32Array(4))
  }

  release(): void {
    this.programs.release()
    this.targets.release()
    this.textures.release()
    this.plan = null
  }

  /**
   * Give everything back, the context too: browsers keep only a few, and a column is opened and closed all
   * night.
   */
  dispose(): void {
    this.release()
    this.gl.getExtension('WEBGL_lose_context')?.loseContext()
  }
}
