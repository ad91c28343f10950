<script setup lang="ts">
// The ways of light: each look that goes somewhere stands at the left in small, and a band runs to every output that
// shows it.
import { useResizeObserver } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import type { Output } from '../api/api'
import { useShow } from '../live/show'
import PictureView from '../picture/PictureView.vue'
import SmallPicture from '../picture/SmallPicture.vue'

const props = defineProps<{ outputs: readonly Output[]; wall: HTMLElement | undefined }>()
const show = useShow()
const looks = computed(() => {
  const wanted = new Set(props.outputs.map((output) => output.look ?? ''))
  const fixed = (show.document?.looks ?? []).filter((look) => wanted.has(look.id))
  return [...(wanted.has('') ? [null] : []), ...fixed]
})
const bands = ref<{ id: string; path: string; black: boolean }[]>([])
const size = ref([0, 0])

/** Bands follow where the tiles lie now. */
function lay(): void {
  const wall = props.wall
  if (!wall) return
  const frame = wall.getBoundingClientRect()
  const place = (selector: string): DOMRect | undefined =>
    wall.querySelector(selector)?.getBoundingClientRect()
  size.value = [wall.scrollWidth, wall.scrollHeight]
  bands.value = props.outputs.flatMap((output) => {
    const look = looks.value.some((each) => each?.id === output.look) ? output.look : ''
    const from = place(`[data-way="${look}"]`)
    const to = place(`[data-output="${output.id}"]`)
    if (!from || !to) return []
    const [x0, y0] = [from.right - frame.left, from.top - frame.top + wall.scrollTop + from.height / 2]
    const [x1, y1] = [to.left - frame.left, to.top - frame.top + wall.scrollTop]
    const [half, high, turn] = [from.height / 6, Math.min(150, to.height), x0 + 40]
    // From the look it spreads to the height of the output's picture.
    const path =
      `M${x0} ${y0 - half} C${turn} ${y0 - half} ${turn} ${y1} ${x1} ${y1} ` +
      `L${x1} ${y1 + high} C${turn} ${y1 + high} ${turn} ${y0 + half} ${x0} ${y0 + half} Z`
    return [{ id: output.id!, path, black: Boolean(output.black) }]
  })
}
watch([() => props.wall, () => props.outputs, looks], () => void nextTick(lay), { immediate: true })
useResizeObserver(() => props.wall ?? null, lay)
</script>

<template>
  <div class="looks">
    <svg :width="size[0]" :height="size[1]" aria-hidden="true">
      <path v-for="band in bands" :key="band.id" :d="band.path" :class="{ black: band.black }" />
    </svg>
    <figure v-for="look in looks" :key="look?.id ?? ''">
      <div :data-way="look?.id ?? ''">
        <SmallPicture v-if="look" :look="look.id" :content="look" />
        <PictureView v-else :largest="320" :one-in="4" />
      </div>
      <figcaption>
        <strong>{{ look?.name ?? show.look?.name ?? 'no look' }}</strong>
        <small class="soft">{{ look ? 'fixed' : 'what plays' }}</small>
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
.looks {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
svg {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
path {
  fill: var(--bolt);
  opacity: 0.16;
}
path.black {
  fill: var(--edge-strong);
}
figure {
  margin: 0;
  width: 170px;
}
figcaption {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  font-size: 13px;
}
</style>
