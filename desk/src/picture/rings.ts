// Lines that are added to those of before, in a texture that goes round: of each frame only new lines come.
// Python's twin: core/kinds/ring.py, which says what a block is.
import { filter } from './filter'

const LINES = 2048
const HEAD_BYTES = 8

export class Rings {
  private readonly widths = new Map<string, number>()
  private readonly numbers = new Map<string, number>()

  constructor(private readonly gl: WebGL2RenderingContext) {}

  /** The newest line's place, of a ring that has had a block. */
  newest(name: string): number | undefined {
    const number = this.numbers.get(name)
    return number === undefined ? undefined : number % LINES
  }

  forget(name: string): void {
    this.widths.delete(name)
    this.numbers.delete(name)
  }

  /** Add a block's lines to a texture; what was missed is as the oldest of them. How many texels it has. */
  put(name: string, texture: WebGLTexture, block: Uint8Array): number {
    const { gl } = this
    const head = new DataView(block.buffer, block.byteOffset, HEAD_BYTES)
    const [number, width, count] = [head.getUint32(0, true), head.getUint16(4, true), head.getUint16(6, true)]
    gl.bindTexture(gl.TEXTURE_2D, texture)
    if (this.widths.get(name) !== width) {
      const nothing = new Uint8Array(width * LINES)
      gl.texImage2D(gl.TEXTURE_2D, 0, gl.R8, width, LINES, 0, gl.RED, gl.UNSIGNED_BYTE, nothing)
      filter(gl, gl.LINEAR)
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_T, gl.REPEAT)
      this.widths.set(name, width)
      this.numbers.set(name, number)
    }
    const gone = (number - this.numbers.get(name)!) >>> 0
    for (let back = 0; back < Math.min(LINES, Math.max(count, gone + 1)); back++) {
      const first = HEAD_BYTES + Math.min(back, count - 1) * width
      const line = block.subarray(first, first + width)
      const at = ((number - back) >>> 0) % LINES
      gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, at, width, 1, gl.RED, gl.UNSIGNED_BYTE, line)
    }
    this.numbers.set(name, number)
    return width * LINES
  }
}
