<script setup lang="ts">
// The room with every lamp where it hangs, shining as it is sent. Choosing here is choosing everywhere; pull what is
// chosen to move it.
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { api } from '../api/api'
import { newGesture } from '../live/gestures'
import { useShow } from '../live/show'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'
import { useChosen } from './chosen'
import { useCalm } from '../live/calm'
import { paintRig } from './drawing'
import { Frame, lampAt, lampsWithin, type Point } from './geometry'
import { useClashes } from './useClashes'
import { useRig } from './useRig'

const FAR = 4
const show = useShow()
const chosen = useChosen()
const { hung, room } = useRig()
const { bad } = useClashes()
const canvas = ref<HTMLCanvasElement>()
const holder = ref<HTMLElement>()
const { width, height } = useElementSize(holder)
const hot = ref('')
const box = ref<{ from: Point; to: Point } | null>(null)
const wall = shallowRef<HTMLImageElement | null>(null)
const frame = computed(() =>
  room.value && width.value > 40 ? new Frame(room.value, chosen.view, width.value, height.value) : null,
)
const drawn = computed(
  () =>
    frame.value && {
      ...{ frame: frame.value, lamps: hung.value, chosen: chosen.set },
      ...{ hot: hot.value, bad: bad.value, wall: wall.value },
    },
)
// The picture on the wall is the look's small one: the living one would cost a second drawing.
watch(
  () => show.look?.id,
  (look) => {
    const image = new Image()
    image.onload = () => (wall.value = image)
    image.onerror = () => (wall.value = null)
    if (look) image.src = `/api/v1/looks/${look}/thumbnail`
  },
  { immediate: true },
)
let context: CanvasRenderingContext2D | null = null
onMounted(() => {
  context = canvas.value?.getContext('2d') ?? null
  chosen.under = (x, y) => {
    const edge = canvas.value!.getBoundingClientRect()
    return (frame.value && lampAt(frame.value, hung.value, { x: x - edge.left, y: y - edge.top })?.id) ?? ''
  }
})
onUnmounted(() => (chosen.under = () => ''))
watch([width, height], () => {
  if (!canvas.value) return
  canvas.value.width = width.value * devicePixelRatio
  canvas.value.height = height.value * devicePixelRatio
  context?.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0)
})
const { lamps: calm } = useCalm()
let painted = 0
function paint(packet: Packet): void {
  if (Math.abs(packet.number - painted) < calm.value) return
  painted = packet.number
  const light = packet.blocks.get(Block.lamps) as Float32Array | undefined
  const pose = packet.blocks.get(Block.pose) as Float32Array | undefined
  if (light && pose && context && drawn.value) paintRig(context, drawn.value, light, pose, performance.now())
}
useFrames([Block.lamps, Block.pose], { paint })

let pressed: { at: Point; ids: string[]; places: Point[]; moved: boolean; gesture: string } | null = null
let sending: Promise<unknown> | null = null
let waiting: [number, number][] | null = null
function at(event: PointerEvent): Point {
  const edge = canvas.value!.getBoundingClientRect()
  return { x: event.clientX - edge.left, y: event.clientY - edge.top }
}
function down(event: PointerEvent): void {
  if (!frame.value || event.button !== 0) return
  canvas.value!.setPointerCapture(event.pointerId)
  const point = at(event)
  const lamp = lampAt(frame.value, hung.value, point)
  const more = event.shiftKey || event.ctrlKey || event.metaKey
  if (!lamp) {
    box.value = { from: point, to: point }
    if (!more) chosen.choose([])
    return
  }
  if (more) chosen.toggle(lamp.id)
  else if (!chosen.set.has(lamp.id)) chosen.choose([lamp.id])
  const moving = chosen.chosen
  const places = moving.map((own) => ({
    x: own.place!.x!,
    y: frame.value!.up(own.place as { y: number; z: number }),
  }))
  pressed = { at: point, ids: moving.map((own) => own.id), places, moved: false, gesture: newGesture() }
}
function move(event: PointerEvent): void {
  if (!frame.value) return
  const point = at(event)
  if (box.value) {
    box.value = { ...box.value, to: point }
    return
  }
  if (!pressed) {
    hot.value = lampAt(frame.value, hung.value, point)?.id ?? ''
    return
  }
  if (!pressed.moved && Math.hypot(point.x - pressed.at.x, point.y - pressed.at.y) < FAR) return
  pressed.moved = true
  const now = frame.value.toRoom(point)
  const then = frame.value.toRoom(pressed.at)
  send(pressed.places.map((place) => [place.x + now.x - then.x, place.y + now.up - then.up]))
}
/** One answer at a time: of what is pulled meanwhile the newest goes. */
function send(points: [number, number][]): void {
  waiting = points
  if (sending || !pressed) return
  const { ids, gesture } = pressed
  const go = (): Promise<unknown> => {
    const now = waiting
    waiting = null
    return now
      ? api.lamps.place(ids, now, chosen.view, gesture).then(go, show.complain)
      : Promise.resolve((sending = null))
  }
  sending = go().finally(() => (sending = null))
}
function up(event: PointerEvent): void {
  if (box.value && frame.value) {
    const found = lampsWithin(frame.value, hung.value, box.value.from, box.value.to)
    if (found.length)
      chosen.choose(
        found.map((lamp) => lamp.id),
        event.shiftKey,
      )
    box.value = null
  }
  pressed = null
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Escape') chosen.choose([])
  else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) chosen.ways.all()
  else if (event.key.toLowerCase() === 'v') chosen.view = chosen.view === 'front' ? 'top' : 'front'
  else return
  event.preventDefault()
}
const boxStyle = computed(() => {
  if (!box.value) return {}
  const { from, to } = box.value
  const px = (value: number): string => `${value}px`
  return {
    left: px(Math.min(from.x, to.x)),
    top: px(Math.min(from.y, to.y)),
    width: px(Math.abs(to.x - from.x)),
    height: px(Math.abs(to.y - from.y)),
  }
})
const hotName = computed(() => hung.value.find((lamp) => lamp.id === hot.value)?.name ?? '')
</script>

<template>
  <div ref="holder" class="holder">
    <canvas
      ref="canvas"
      tabindex="0"
      role="application"
      aria-label="The rig: press a lamp to choose it, pull to move it, pull a box to choose several"
      aria-keyshortcuts="V Escape Control+A"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
      @pointerleave="hot = ''"
      @keydown="key"
    />
    <div v-if="box" class="box" :style="boxStyle" />
    <span v-if="hotName" class="hot">{{ hotName }}</span>
    <span v-if="!hung.length" class="empty soft">Lamps hang here. Begin with “Hang lamps”.</span>
    <slot />
  </div>
</template>

<style scoped>
.holder {
  position: relative;
  flex: 1;
  min-height: 0;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 8px;
  overflow: hidden;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.box {
  position: absolute;
  border: 1px solid var(--bolt);
  background: color-mix(in srgb, var(--bolt) 10%, transparent);
  pointer-events: none;
}
.hot {
  position: absolute;
  left: 10px;
  bottom: 8px;
  pointer-events: none;
  font-size: 14px;
}
.empty {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  pointer-events: none;
}
</style>
