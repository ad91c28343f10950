/** How the bound texture is read between its texels; beyond its edges the edge goes on. */
export function filter(gl: WebGL2RenderingContext, which: number): void {
  for (const end of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
    gl.texParameteri(gl.TEXTURE_2D, end, which)
  for (const side of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T])
    gl.texParameteri(gl.TEXTURE_2D, side, gl.CLAMP_TO_EDGE)
}
