// What passes draw into: 16-bit float targets, some with pictures of before.
import type { Plan } from '../api/api'
import { filter } from './filter'

export interface Target {
  width: number
  height: number
  texture: WebGLTexture
  framebuffer: WebGLFramebuffer
  depth: WebGLRenderbuffer | null
}

type Planned = Plan['targets'][number]

/** As Target.pixels in src/fulgura/core/picture/plan.py. */
function sizeOf(target: Planned, width: number, height: number, scale: number[]): [number, number] {
  if (target.size) return target.size as [number, number]
  const [across, up] = target.of === 'screen' ? [1, 1] : scale
  const side = (length: number, times: number): number =>
    Math.max(1, Math.floor((length * times) / (target.divide ?? 1) + 1e-6))
  return [side(width, across!), side(height, up!)]
}

export class Targets {
  private readonly targets = new Map<string, Target[]>()
  /** What each target was made as, to see what a new plan has in common with the last. */
  private readonly made = new Map<string, string>()
  /** Those that stay as they are when feedback is cleared, and those of a size of their own. */
  private readonly lasting = new Set<string>()
  private readonly fixed = new Set<string>()
  private scale = ''

  constructor(private readonly gl: WebGL2RenderingContext) {}

  /** Make what a plan needs in this size; what it has in common with the last stays. */
  make(plan: Plan, width: number, height: number): void {
    const wanted = new Map(plan.targets.map((target) => [target.name, JSON.stringify(target)]))
    for (const [name, made] of [...this.made]) if (wanted.get(name) !== made) this.drop(name)
    if (String(plan.scale) !== this.scale) this.dropAll()
    this.scale = String(plan.scale)
    for (const target of plan.targets) {
      const { name, history } = target
      if (this.made.has(name)) continue
      this.made.set(name, wanted.get(name)!)
      if (target.lasting) this.lasting.add(name)
      if (target.size) this.fixed.add(name)
      const size = sizeOf(target, width, height, plan.scale ?? [1, 1])
      this.targets.set(
        name,
        Array.from({ length: (history ?? 0) + 1 }, () => this.makeOne(size, target)),
      )
    }
  }

  /** A target as it was some pictures ago; 0 is what is drawn into now. */
  of(name: string, ago = 0): Target {
    return this.targets.get(name)![ago]!
  }

  /** A target as it was drawn last, after its turn. */
  last(name: string): Target {
    const kept = this.targets.get(name)!
    return kept[1 % kept.length]!
  }

  /** What was just drawn is now one picture ago. */
  turn(): void {
    for (const kept of this.targets.values()) kept.unshift(kept.pop()!)
  }

  /** Of every picture of before nothing is left. */
  forget(): void {
    const { gl } = this
    gl.clearColor(0, 0, 0, 0)
    for (const [name, kept] of this.targets) {
      for (const target of this.lasting.has(name) ? [] : kept) {
        gl.bindFramebuffer(gl.FRAMEBUFFER, target.framebuffer)
        gl.clear(gl.COLOR_BUFFER_BIT)
      }
    }
  }

  /** Those that follow the picture's size go. */
  dropAll(): void {
    for (const name of [...this.made.keys()]) if (!this.fixed.has(name)) this.drop(name)
  }

  release(): void {
    for (const name of [...this.made.keys()]) this.drop(name)
  }

  private drop(name: string): void {
    for (const target of this.targets.get(name) ?? []) {
      this.gl.deleteTexture(target.texture)
      this.gl.deleteFramebuffer(target.framebuffer)
      if (target.depth) this.gl.deleteRenderbuffer(target.depth)
    }
    this.targets.delete(name)
    for (const names of [this.made, this.lasting, this.fixed]) names.delete(name)
  }

  private makeOne([width, height]: [number, number], { depth: deep, exact }: Planned): Target {
    const { gl } = this
    const texture = gl.createTexture()
    gl.bindTexture(gl.TEXTURE_2D, texture)
    gl.texStorage2D(gl.TEXTURE_2D, 1, exact ? gl.RGBA32F : gl.RGBA16F, width, height)
    filter(gl, exact ? gl.NEAREST : gl.LINEAR)
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
}
