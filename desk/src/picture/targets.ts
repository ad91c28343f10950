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

export class Targets {
  private readonly targets = new Map<string, Target[]>()
  /** What each target was made as, to see what a new plan has in common with the last. */
  private readonly made = new Map<string, string>()

  constructor(private readonly gl: WebGL2RenderingContext) {}

  /** Make what a plan needs in this size; what it has in common with the last stays. */
  make(plan: Plan, width: number, height: number): void {
    const wanted = new Map(plan.targets.map((target) => [target.name, JSON.stringify(target)]))
    for (const [name, made] of [...this.made]) if (wanted.get(name) !== made) this.drop(name)
    for (const { name, history, depth, divide } of plan.targets) {
      if (this.made.has(name)) continue
      this.made.set(name, wanted.get(name)!)
      const size = [width, height].map((side) => Math.max(1, Math.floor(side / (divide ?? 1)))) as [
        number,
        number,
      ]
      this.targets.set(
        name,
        Array.from({ length: (history ?? 0) + 1 }, () => this.makeOne(size, Boolean(depth))),
      )
    }
  }

  /** A target as it was some pictures ago; 0 is what is drawn into now. */
  of(name: string, ago = 0): Target {
    return this.targets.get(name)![ago]!
  }

  /** What was just drawn is now one picture ago. */
  turn(): void {
    for (const kept of this.targets.values()) kept.unshift(kept.pop()!)
  }

  /** Of every picture of before nothing is left. */
  forget(): void {
    const { gl } = this
    gl.clearColor(0, 0, 0, 0)
    for (const kept of this.targets.values()) {
      for (const target of kept) {
        gl.bindFramebuffer(gl.FRAMEBUFFER, target.framebuffer)
        gl.clear(gl.COLOR_BUFFER_BIT)
      }
    }
  }

  dropAll(): void {
    for (const name of [...this.made.keys()]) this.drop(name)
  }

  private drop(name: string): void {
    for (const target of this.targets.get(name) ?? []) {
      this.gl.deleteTexture(target.texture)
      this.gl.deleteFramebuffer(target.framebuffer)
      if (target.depth) this.gl.deleteRenderbuffer(target.depth)
    }
    this.targets.delete(name)
    this.made.delete(name)
  }

  private makeOne([width, height]: [number, number], deep: boolean): Target {
    const { gl } = this
    const texture = gl.createTexture()
    gl.bindTexture(gl.TEXTURE_2D, texture)
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA16F, width, height)
    filter(gl, gl.LINEAR)
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
