// Shader programs of a plan. One that a new plan shares with the last is kept; a program is known by its
// text.
import type { Plan } from '../api/api'

export interface Program {
  program: WebGLProgram
  locations: Map<string, WebGLUniformLocation | null>
}
type Pass = Plan['passes'][number]

export class Programs {
  private made = new Map<string, Program>()
  private texts: string[] = []
  /** What of the plan cannot be drawn here; empty for nothing. */
  fault = ''

  constructor(private readonly gl: WebGL2RenderingContext) {}

  load(plan: Plan): void {
    const wanted = new Map(plan.passes.map((pass) => [textOf(plan, pass), pass]))
    const programs = new Map<string, Program>()
    this.fault = ''
    for (const [text, pass] of wanted) {
      // One that cannot be made here leaves its own place dark; all else is drawn.
      try {
        const [vertex, fragment] = [plan.texts[pass.vertex_text!]!, plan.texts[pass.fragment_text!]!]
        programs.set(text, this.made.get(text) ?? this.compile(vertex, fragment))
      } catch (error) {
        if (this.gl.isContextLost()) throw error
        this.fault = `${pass.name} cannot be drawn here: ${error instanceof Error ? error.message : error}`
      }
    }
    for (const [text, { program }] of this.made) if (!programs.has(text)) this.gl.deleteProgram(program)
    this.made = programs
    this.texts = plan.passes.map((pass) => textOf(plan, pass))
  }

  /** The program of a pass by its place in the plan; none when it could not be made. */
  of(index: number): Program | undefined {
    return this.made.get(this.texts[index]!)
  }

  release(): void {
    for (const { program } of this.made.values()) this.gl.deleteProgram(program)
    this.made.clear()
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
    const locations = new Map<string, WebGLUniformLocation | null>()
    for (let i = gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS) as number; i-- > 0;) {
      const name = gl.getActiveUniform(program, i)!.name
      locations.set(name, gl.getUniformLocation(program, name))
    }
    return { program, locations }
  }
}

function textOf(plan: Plan, pass: Pass): string {
  return `${plan.texts[pass.vertex_text!]}\n${plan.texts[pass.fragment_text!]}`
}
