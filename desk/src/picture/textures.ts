// What passes read that is no target: data that comes with frames, fixed pictures, clips and cameras.
import type { Plan } from '../api/api'
import type { Packet } from '../live/wire'
import { cameraPicture, dropCamera, useCamera } from './camera'
import { filter } from './filter'
import { IntraClip } from './intraClips'
import { Rings } from './rings'

/** Of each form of data: components a texel, and what WebGL calls it: inside, outside, type, filter. */
const FORMS: Record<string, [number, number, number, number, number]> = {
  level: [1, 0x8229, 0x1903, 0x1401, 0x2601], // R8, RED, UNSIGNED_BYTE, LINEAR
  wave: [1, 0x822d, 0x1903, 0x1406, 0x2601], // R16F, RED, FLOAT, LINEAR
  cells: [4, 0x8d76, 0x8d99, 0x1403, 0x2600], // RGBA16UI, RGBA_INTEGER, UNSIGNED_SHORT, NEAREST
  rows: [4, 0x8814, 0x1908, 0x1406, 0x2600], // RGBA32F, RGBA, FLOAT, NEAREST
}

/** Fixed pictures that were fetched, for all executors of this page. */
const pictures = new Map<string, Promise<Uint8Array>>()

export class Textures {
  private readonly textures = new Map<string, WebGLTexture>()
  private readonly intraClips = new Map<string, IntraClip>()
  private cameras = new Map<string, string>()
  private clips: NonNullable<Plan['clips']> = []
  private data: Plan['data'] = []
  /** Of each clip's and camera's texture: the clip and the picture that are in it. */
  private readonly shown = new Map<string, string>()
  private coming: Promise<void>[] = []

  readonly rings: Rings

  constructor(private readonly gl: WebGL2RenderingContext) {
    this.rings = new Rings(gl)
  }

  /** Take over what a plan reads; what it has in common with the last stays. */
  load(plan: Plan): void {
    this.data = plan.data
    this.clips = plan.clips ?? []
    const names = new Set([...plan.data, ...plan.images, ...this.clips].map((texture) => texture.name))
    for (const [name, texture] of this.textures)
      if (!names.has(name)) {
        this.gl.deleteTexture(texture)
        this.textures.delete(name)
        this.shown.delete(name)
        this.rings.forget(name)
      }
    for (const image of plan.images) if (image.form !== 'camera') this.loadImage(image)
    this.takeClips(this.clips)
    this.takeCameras(plan.images)
  }

  of(name: string): WebGLTexture | null {
    return this.textures.get(name) ?? null
  }

  release(): void {
    for (const texture of this.textures.values()) this.gl.deleteTexture(texture)
    this.takeClips([])
    this.takeCameras([])
    this.textures.clear()
    this.shown.clear()
  }

  /** Put a frame's data blocks into their textures; how many texels each has. */
  upload(packet: Packet): Map<string, number> {
    const gl = this.gl
    const found = new Map<string, number>()
    for (const clip of this.clips) this.uploadClip(clip, packet)
    for (const [name, key] of this.cameras) this.uploadCamera(name, key)
    for (const { name, block, form, width } of this.data) {
      const values = packet.blocks.get(block)
      if (form === 'ring') {
        if (values) found.set(name, this.rings.put(name, this.texture(name, gl.LINEAR), values as Uint8Array))
        continue
      }
      const [components, inside, outside, type, reading] = FORMS[form]!
      const texture = this.texture(name, reading)
      const height = values ? Math.floor(values.length / (width * components)) : 0
      gl.bindTexture(gl.TEXTURE_2D, texture)
      if (values && height) gl.texImage2D(gl.TEXTURE_2D, 0, inside, width, height, 0, outside, type, values)
      found.set(name, width * height)
    }
    return found
  }

  private texture(name: string, reading: number): WebGLTexture {
    const before = this.textures.get(name)
    if (before) return before
    const texture = this.gl.createTexture()
    this.textures.set(name, texture)
    this.gl.bindTexture(this.gl.TEXTURE_2D, texture)
    filter(this.gl, reading)
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

  /** Resolves when every fixed picture of the plan is there, and of a frame every clip's. */
  async ready(packet?: Packet): Promise<void> {
    await Promise.all(this.coming)
    if (packet)
      await Promise.all(
        this.clips.map((clip) => this.intraClips.get(clip.key)!.ready(packet.blocks.get(clip.block)![0]!)),
      )
  }

  private takeClips(clips: NonNullable<Plan['clips']>): void {
    const keys = new Set(clips.map((clip) => clip.key))
    for (const [key, intraClip] of this.intraClips)
      if (!keys.has(key)) {
        intraClip.close()
        this.intraClips.delete(key)
      }
    for (const { key, frames } of clips)
      if (!this.intraClips.has(key)) this.intraClips.set(key, new IntraClip(key, frames))
  }

  /** The picture that the frame says; where it is not there yet, what was there stays. */
  private uploadClip(
    { name, key, width, height, block }: NonNullable<Plan['clips']>[number],
    packet: Packet,
  ): void {
    const gl = this.gl
    const number = packet.blocks.get(block)?.[0] ?? 0
    const picture = this.intraClips.get(key)?.picture(number)
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
    const wanted = new Map(
      images.filter((image) => image.form === 'camera').map((image) => [image.name, image.key]),
    )
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
}
