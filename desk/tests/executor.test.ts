// What the executor keeps from one plan to the next: targets and programs that both have stay where they
// were.
import { describe, expect, it } from 'vitest'
import type { Plan } from '../src/api/api'
import { Programs } from '../src/picture/programs'
import { Targets } from '../src/picture/targets'

/** A WebGL context that makes things and remembers which it was told to delete. */
function fakeContext(broken = '') {
  const deleted: unknown[] = []
  let sources: string[] = []
  const known: Record<string, (...words: never[]) => unknown> = {
    getProgramParameter: (_: never, what: never) => (what === 'ACTIVE_UNIFORMS' ? 0 : true),
    getShaderParameter: () => !broken || !sources.at(-1)!.includes(broken),
    shaderSource: (_: never, text: never) => void (sources = [...sources, text]),
    getShaderInfoLog: () => 'line 1: no such thing',
    isContextLost: () => false,
    deleteTexture: (one: never) => void deleted.push(one),
    deleteProgram: (one: never) => void deleted.push(one),
  }
  const gl = new Proxy({} as Record<string, unknown>, {
    get: (_, name: string) => known[name] ?? (name === name.toUpperCase() ? name : () => ({})),
  })
  return { gl: gl as unknown as WebGL2RenderingContext, deleted }
}
const plan = (...names: string[]): Plan =>
  ({
    targets: names.map((name) => ({ name, history: name === 'echo' ? 1 : 0, depth: false, divide: 1 })),
    passes: names.map((name) => ({ name, vertex_text: 'v', fragment_text: name })),
    texts: { v: 'quad', ...Object.fromEntries(names.map((name) => [name, `draws ${name}`])) },
  }) as unknown as Plan

describe('targets', () => {
  it('that two plans have in common stay, so that feedback goes on; the others go', () => {
    const { gl, deleted } = fakeContext()
    const targets = new Targets(gl)
    targets.make(plan('a', 'echo'), 64, 36)
    const [echo, a] = [targets.of('echo'), targets.of('a')]
    targets.make(plan('echo', 'b'), 64, 36)
    expect(targets.of('echo')).toBe(echo)
    expect(deleted).toEqual([a.texture])
  })

  it('with pictures of before take turns', () => {
    const targets = new Targets(fakeContext().gl)
    targets.make(plan('echo'), 64, 36)
    const [now, before] = [targets.of('echo'), targets.of('echo', 1)]
    targets.turn()
    expect([targets.of('echo'), targets.of('echo', 1)]).toEqual([before, now])
    expect(targets.of('echo')).toBe(before)
  })
})

describe('programs', () => {
  it('are known by their text: what both plans have is compiled once', () => {
    const { gl, deleted } = fakeContext()
    const programs = new Programs(gl)
    programs.load(plan('a', 'b'))
    const [a, b] = [programs.of(0), programs.of(1)]
    programs.load(plan('b', 'c'))
    expect(programs.of(0)).toBe(b)
    expect(deleted).toEqual([a!.program])
  })

  it('that cannot be made leave their own place dark, and say so', () => {
    const programs = new Programs(fakeContext('draws b').gl)
    programs.load(plan('a', 'b'))
    expect(programs.of(0)).toBeDefined()
    expect(programs.of(1)).toBeUndefined()
    expect(programs.fault).toBe('b cannot be drawn here: line 1: no such thing')
  })
})
