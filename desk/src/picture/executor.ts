// Draws plans that Python compiled: uploads, binds, draws. It holds no rule, no default and no shader text.
// Python's twin is src/fulgura/render/executor.py.
import type { Plan } from '../shared/api'
import { Block, type Packet } from '../shared/wire'
import { cameraPicture, dropCamera, useCamera } from './camera'
import { Reel } from './reel'

interface Target {
  width: number
  height: number
  texture: WebGLTexture
  framebuffer: WebGLFramebuffer
  depth: WebGLRenderbuffer | null
}
interface Program {
  program: WebGLProgram
  places: Map<string, WebGLUniformLocation | null>
}
type Pass = Plan['passes'][number]

/** Of each form of data: components a texel, and what WebGL calls it: inside, outside, type, filter. */
const FORMS: Record<string, [number, number, number, number, number]> = {
  level: [1, 0x8229, 0x1903, 0x1401, 0x2601], // R8, RED, UNSIGNED_BYTE, LINEAR
  wave: [1, 0x822d, 0x1903, 0x1406, 0x2601], // R16F, RED, FLOAT, LINEAR
  cells: [4, 0x8d76, 0x8d99, 0x1403, 0x2600], // RGBA16UI, RGBA_INTEGER, UNSIGNED_SHORT, NEAREST
  rows: [4, 0x8814, 0x1908, 0x1406, 0x2600], // RGBA32F, RGBA, FLOAT, NEAREST
}

export class Executor {
  private readonly gl: WebGL2RenderingContext
  private plan: Plan | null = null
  private programs = new Map<string, Program>()
  private targets = new Map<string, Target[]>()
  /** What each target was made as, to see what a new plan has in common with the last. */
  private made = new Map<string, string>()
  private textures = new Map<string, WebGLTexture>()
  private readonly reels = new Map<string, Reel>()
  private cameras = new Map<string, string>()
  /** Of each clip's texture: the clip and the picture that are in it. */
  private readonly shown = new Map<string, string>()
  private texts: string[] = []
  private lastNumber = -1
  width = 0
  height = 0
  /** What of the plan cannot be drawn here; empty for nothing. */
  trouble = ''

  /** Throws when the browser has no WebGL2 or cannot draw into 16-bit float targets. */
  constructor(private readonly canvas: HTMLCanvasElement | OffscreenCanvas) {
    const gl = canvas.getContext('webgl2', {
      alpha: false,
      antialias: false,
      depth: false,
      powerPreference: 'high-performance',
    }) as WebGL2RenderingContext | null
    if (!gl || !gl.getExtension('EXT_color_buffer_float'))
      throw new Error('This browser cannot draw the picture: WebGL2 with float targets is missing.')
    this.gl = gl
    gl.bindVertexArray(gl.createVertexArray())
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1)
  }

  /** Take a plan over. What it has in common with the last one stays, so that feedback goes on where it was. */
  load(plan: Plan): void {
    if (this.plan?.id === plan.id) return
    const wanted = new Map(plan.passes.map((pass) => [textOf(plan, pass), pass]))
    const programs = new Map<string, Program>()
    this.trouble = ''
    for (const [text, pass] of wanted) {
      // One that cannot be made here leaves its own place dark; all else is drawn.
      try {
        programs.set(
          text,
          this.programs.get(text) ??
            this.compile(plan.texts[pass.vertex_text!]!, plan.texts[pass.fragment_text!]!),
        )
      } catch (error) {
        if (this.gl.isContextLost()) throw error
        this.trouble = `${pass.name} cannot be drawn here: ${error instanceof Error ? error.message : error}`
      }
    }
    for (const [text, { program }] of this.programs) if (!programs.has(text)) this.gl.deleteProgram(program)
    this.programs = programs
    const names = new Set([...plan.data, ...plan.images, ...(plan.clips ?? [])].map((one) => one.name))
    for (const [name, texture] of this.textures)
      if (!names.has(name)) {
        this.gl.deleteTexture(texture)
        this.textures.delete(name)
        this.shown.delete(name)
      }
    for (const image of plan.images) if (image.form !== 'camera') this.loadImage(image)
    this.takeReels(plan.clips ?? [])
    this.takeCameras(plan.images)
    this.plan = plan
    this.texts = plan.passes.map((pass) => textOf(plan, pass))
    this.makeTargets()
  }

  resize(width: number, height: number): void {
    if (width === this.width && height === this.height) return
    this.width = this.canvas.width = width
    this.height = this.canvas.height = height
    for (const name of [...this.made.keys()]) this.dropTarget(name)
    this.makeTargets()
  }

  /** Draw one frame; false when it belongs to another plan. steps: engine frames since the last draw. */
  draw(packet: Packet, steps?: number): boolean {
    const plan = this.plan
    // The first frames after a panel opens may have been sent before it asked for this block.
    if (!plan || packet.plan !== plan.id || !this.width || !packet.blocks.has(Block.uniforms)) return false
    const gone = steps ?? Math.min(6, Math.max(1, packet.number - this.lastNumber))
    this.lastNumber = packet.number
    const texels = this.upload(packet)
    for (let i = 0; i < plan.passes.length; i++) this.drawPass(i, packet, gone, texels)
    for (const kept of this.targets.values()) kept.unshift(kept.pop()!) // What was just drawn is now one picture ago.
    return true
  }

  drawPass(place: number, packet: Packet, steps: number, texels: Map<string, number>): void {
    const gl = this.gl
    const pass = this.plan!.passes[place]!
    const made = this.programs.get(this.texts[place]!)
    if (!made) return
    const { program, places } = made
    const values = packet.blocks.get(Block.uniforms) as Float32Array
    gl.useProgram(program)
    pass.inputs.forEach((input, unit) => {
      gl.activeTexture(gl.TEXTURE0 + unit)
      const pair = input.target ? this.targets.get(input.target)! : null
      gl.bindTexture(
        gl.TEXTURE_2D,
        pair
          ? pair[input.ago ?? 0]!.texture
          : (this.textures.get(input.data ?? input.image ?? input.clip ?? '') ?? null),
      )
      gl.uniform1i(places.get(input.uniform) ?? null, unit)
    })
    for (const { name, offset, size } of pass.uniforms) {
      const place = places.get(name) ?? null
      if (size === 1) gl.uniform1f(place, values[offset]!)
      else gl.uniform3f(place, values[offset]!, values[offset + 1]!, values[offset + 2]!)
    }
    gl.uniform1f(places.get('u_steps') ?? null, steps)
    gl.uniform1f(places.get('u_time') ?? null, packet.time)
    const target = pass.target === 'screen' ? null : this.targets.get(pass.target)![0]!
    const { width, height } = target ?? this
    gl.uniform2f(places.get('u_size') ?? null, width, height)
    gl.bindFramebuffer(gl.FRAMEBUFFER, target?.framebuffer ?? null)
    gl.viewport(0, 0, width, height)
    if (pass.clear) gl.clear(gl.COLOR_BUFFER_BIT | (pass.depth ? gl.DEPTH_BUFFER_BIT : 0))
    this.turn(gl.DEPTH_TEST, pass.depth)
    this.turn(gl.BLEND, pass.blend !== 'none')
    if (pass.blend !== 'none') gl.blendFunc(gl.ONE, pass.blend === 'add' ? gl.ONE : gl.ONE_MINUS_SRC_ALPHA)
    const instances = pass.each ? (texels.get(pass.each) ?? 0) : pass.instances
    if (instances === 1) gl.drawArrays(gl.TRIANGLES, 0, pass.vertices)
    else gl.drawArraysInstanced(gl.TRIANGLES, 0, pass.vertices, instances)
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
    gl.bindFramebuffer(
      gl.FRAMEBUFFER,
      pass.target === 'screen' ? null : this.targets.get(pass.target)![0]!.framebuffer,
    )
    if (pass.target === 'screen') gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
    else gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.FLOAT, new Float32Array(4))
  }

  get passes(): Plan['passes'] {
    return this.plan?.passes ?? []
  }

  /** Put the plan's data blocks into their textures; how many texels each has. */
  upload(packet: Packet): Map<string, number> {
    const gl = this.gl
    const found = new Map<string, number>()
    for (const clip of this.plan?.clips ?? []) this.uploadClip(clip, packet)
    for (const [name, key] of this.cameras) this.uploadCamera(name, key)
    for (const { name, block, form, width } of this.plan?.data ?? []) {
      const values = packet.blocks.get(block)
      const [components, inside, outside, type, filter] = FORMS[form]!
      const texture = this.texture(name, filter)
      const height = values ? Math.floor(values.length / (width * components)) : 0
      gl.bindTexture(gl.TEXTURE_2D, texture)
      if (values && height) gl.texImage2D(gl.TEXTURE_2D, 0, inside, width, height, 0, outside, type, values)
      found.set(name, width * height)
    }
    return found
  }

  private texture(name: string, filter: number): WebGLTexture {
    const before = this.textures.get(name)
    if (before) return before
    const texture = this.gl.createTexture()
    this.textures.set(name, texture)
    this.gl.bindTexture(this.gl.TEXTURE_2D, texture)
    this.filter(filter)
    return texture
  }

  /** Fixed pictures come once, by their key; until then there is nothing in them. */
  private loadImage(image: Plan['images'][number]): void {
    const gl = this.gl
    if (this.textures.has(image.name)) return
    const texture = this.texture(image.name, gl.LINEAR)
    const colour = image.form === 'colour'
    const put = (width: number, height: number, texels: Uint8Array): void => {
      gl.bindTexture(gl.TEXTURE_2D, texture)
      gl.texImage2D(
        gl.TEXTURE_2D,
        0,
        colour ? gl.SRGB8_ALPHA8 : gl.R8,
        width,
        height,
        0,
        colour ? gl.RGBA : gl.RED,
        gl.UNSIGNED_BYTE,
        texels,
      )
    }
    put(1, 1, new Uint8Array(4))
    const fetched =
      pictures.get(image.key) ??
      fetch(`/api/v1/images/${encodeURIComponent(image.key)}`).then(async (answer) => {
        if (!answer.ok) throw new Error(String(answer.status))
        return new Uint8Array(await answer.arrayBuffer())
      })
    pictures.set(image.key, fetched)
    this.coming.push(
      fetched.then(
        (texels) => {
          if (this.textures.get(image.name) === texture) put(image.width, image.height, texels)
        },
        () => {
          pictures.delete(image.key)
        },
      ),
    )
  }

  private coming: Promise<void>[] = []

  /** Resolves when every fixed picture of the plan is there, and of a frame every clip's. */
  async ready(packet?: Packet): Promise<void> {
    await Promise.all(this.coming)
    if (packet)
      await Promise.all(
        (this.plan?.clips ?? []).map((clip) =>
          this.reels.get(clip.key)!.ready(packet.blocks.get(clip.block)![0]!),
        ),
      )
  }

  private takeReels(clips: NonNullable<Plan['clips']>): void {
    const keys = new Set(clips.map((one) => one.key))
    for (const [key, reel] of this.reels)
      if (!keys.has(key)) {
        reel.close()
        this.reels.delete(key)
      }
    for (const { key, frames } of clips) if (!this.reels.has(key)) this.reels.set(key, new Reel(key, frames))
  }

  /** The picture that the frame says; where it is not there yet, what was there stays. */
  private uploadClip(
    { name, key, width, height, block }: NonNullable<Plan['clips']>[number],
    packet: Packet,
  ): void {
    const gl = this.gl
    const number = packet.blocks.get(block)?.[0] ?? 0
    const picture = this.reels.get(key)?.picture(number)
    const texture = this.texture(name, gl.LINEAR)
    if (!picture && !this.shown.has(name)) {
      gl.bindTexture(gl.TEXTURE_2D, texture)
      gl.texImage2D(
        gl.TEXTURE_2D,
        0,
        gl.SRGB8_ALPHA8,
        width,
        height,
        0,
        gl.RGBA,
        gl.UNSIGNED_BYTE,
        new Uint8Array(width * height * 4),
      )
      this.shown.set(name, '')
    }
    if (!picture || this.shown.get(name) === `${key} ${number}`) return
    gl.bindTexture(gl.TEXTURE_2D, texture)
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.SRGB8_ALPHA8, gl.RGBA, gl.UNSIGNED_BYTE, picture)
    this.shown.set(name, `${key} ${number}`)
  }

  private takeCameras(images: Plan['images']): void {
    const wanted = new Map(images.filter((one) => one.form === 'camera').map((one) => [one.name, one.key]))
    for (const [name, key] of wanted) if (key && !this.cameras.has(name)) useCamera(key)
    for (const [name, key] of this.cameras) if (key && !wanted.has(name)) dropCamera(key)
    this.cameras = wanted
  }

  private uploadCamera(name: string, key: string): void {
    const gl = this.gl
    const film = key ? cameraPicture(key) : null
    const texture = this.texture(name, gl.LINEAR)
    gl.bindTexture(gl.TEXTURE_2D, texture)
    if (!film) {
      if (this.shown.get(name) === 'nothing') return
      gl.texImage2D(gl.TEXTURE_2D, 0, gl.SRGB8_ALPHA8, 1, 1, 0, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
      this.shown.set(name, 'nothing')
      return
    }
    if (this.shown.get(name) === `camera ${film.currentTime}`) return
    gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, true)
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.SRGB8_ALPHA8, gl.RGBA, gl.UNSIGNED_BYTE, film)
    gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, false)
    this.shown.set(name, `camera ${film.currentTime}`)
  }

  private filter(which: number): void {
    const gl = this.gl
    for (const end of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
      gl.texParameteri(gl.TEXTURE_2D, end, which)
    for (const side of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T])
      gl.texParameteri(gl.TEXTURE_2D, side, gl.CLAMP_TO_EDGE)
  }

  private makeTargets(): void {
    if (!this.plan || !this.width) return
    const wanted = new Map(this.plan.targets.map((target) => [target.name, JSON.stringify(target)]))
    for (const [name, made] of [...this.made]) if (wanted.get(name) !== made) this.dropTarget(name)
    for (const { name, history, depth, divide } of this.plan.targets) {
      if (this.made.has(name)) continue
      this.made.set(name, wanted.get(name)!)
      this.targets.set(
        name,
        Array.from({ length: (history ?? 0) + 1 }, () => this.makeTarget(Boolean(depth), divide ?? 1)),
      )
    }
  }

  private makeTarget(deep: boolean, divide: number): Target {
    const gl = this.gl
    const [width, height] = [this.width, this.height].map((one) => Math.max(1, Math.floor(one / divide))) as [
      number,
      number,
    ]
    const texture = gl.createTexture()
    gl.bindTexture(gl.TEXTURE_2D, texture)
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA16F, width, height)
    this.filter(gl.LINEAR)
    const framebuffer = gl.createFramebuffer()
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer)
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0)
    const depth = deep ? gl.createRenderbuffer() : null
    if (depth) {
      gl.bindRenderbuffer(gl.RENDERBUFFER, depth)
      gl.renderbufferStorage(gl.RENDERBUFFER, gl.DEPTH_COMPONENT24, width, height)
      gl.framebufferRenderbuffer(gl.FRAMEBUFFER, gl.DEPTH_ATTACHMENT, gl.RENDERBUFFER, depth)
    }
    gl.clearColor(0, 0, 0, 0)
    gl.clear(gl.COLOR_BUFFER_BIT)
    return { width, height, texture, framebuffer, depth }
  }

  private dropTarget(name: string): void {
    for (const target of this.targets.get(name) ?? []) {
      this.gl.deleteTexture(target.texture)
      this.gl.deleteFramebuffer(target.framebuffer)
      if (target.depth) this.gl.deleteRenderbuffer(target.depth)
    }
    this.targets.delete(name)
    this.made.delete(name)
  }

  private compile(vertex: string, fragment: string): Program {
    const gl = this.gl
    const program = gl.createProgram()
    for (const [type, text] of [
      [gl.VERTEX_SHADER, vertex],
      [gl.FRAGMENT_SHADER, fragment],
    ] as const) {
      const shader = gl.createShader(type)!
      gl.shaderSource(shader, text)
      gl.compileShader(shader)
      if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
        throw new Error(gl.getShaderInfoLog(shader) ?? 'A shader did not compile.')
      gl.attachShader(program, shader)
      gl.deleteShader(shader)
    }
    gl.linkProgram(program)
    if (!gl.getProgramParameter(program, gl.LINK_STATUS))
      throw new Error(gl.getProgramInfoLog(program) ?? 'A shader did not link.')
    const places = new Map<string, WebGLUniformLocation | null>()
    for (let i = gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS) as number; i-- > 0;) {
      const name = gl.getActiveUniform(program, i)!.name
      places.set(name, gl.getUniformLocation(program, name))
    }
    return { program, places }
  }

  release(): void {
    for (const { program } of this.programs.values()) this.gl.deleteProgram(program)
    for (const name of [...this.made.keys()]) this.dropTarget(name)
    for (const texture of this.textures.values()) this.gl.deleteTexture(texture)
    this.takeReels([])
    this.takeCameras([])
    this.programs.clear()
    this.textures.clear()
    this.shown.clear()
    this.plan = null
  }

  /** Give everything back, the context too: browsers keep only a few, and a column is opened and closed all night. */
  dispose(): void {
    this.release()
    this.gl.getExtension('WEBGL_lose_context')?.loseContext()
  }
}

/** Fixed pictures that were fetched, for all executors of this page. */
const pictures = new Map<string, Promise<Uint8Array>>()

/** A program is known by its text. */
function textOf(plan: Plan, pass: Pass): string {
  return `${plan.texts[pass.vertex_text!]}\n${plan.texts[pass.fragment_text!]}`
}
