<script setup lang="ts">
// A look or a layer in small, as Python drew it. It follows edits with some delay: never more than one is
// drawn at a time.
import { onMounted, onScopeDispose, ref, watch } from 'vue'
import { api } from '../api/api'

const props = defineProps<{
  look: string
  layer?: string
  /** What this cue would bring, instead of the look as it is. */ cue?: string
  /** What it shows, to see that it changed. */ content: unknown
}>()
const SETTLED_MS = 2500
const AGAIN_MS = 3000
const canvas = ref<HTMLCanvasElement>()
const missing = ref(true)
let asked = 0
let timer = 0

/**
 * Painted on a canvas of its own: of pictures in elements the browser keeps every one that was shown in a
 * night.
 */
async function load(): Promise<void> {
  const mine = ++asked
  try {
    const url = props.cue ? api.cues.picture(props.cue, mine) : api.thumbnail(props.look, props.layer, mine)
    const answer = await fetch(url)
    if (!answer.ok) throw new Error(String(answer.status))
    const picture = await createImageBitmap(await answer.blob())
    const c = canvas.value
    if (c && mine === asked) {
      ;[c.width, c.height] = [picture.width, picture.height]
      c.getContext('2d', { alpha: false })!.drawImage(picture, 0, 0)
      missing.value = false
    }
    picture.close()
  } catch {
    // It is being drawn, or cannot be: shown as such, and asked for again after a while.
    if (mine === asked) {
      missing.value = true
      later(AGAIN_MS)
    }
  }
}
function later(ms: number): void {
  clearTimeout(timer)
  timer = window.setTimeout(() => {
    void load()
  }, ms)
}
onMounted(load)
// By what it says: rows are drawn anew often, and would put off the next try for ever.
watch(
  () => JSON.stringify(props.content),
  () => {
    later(SETTLED_MS)
  },
)
watch(() => [props.look, props.layer, props.cue], load)
onScopeDispose(() => {
  clearTimeout(timer)
  asked++
})
</script>

<template>
  <span class="small" :class="{ missing }"
    ><canvas v-show="!missing" ref="canvas" /><i
      v-if="missing"
      class="pi pi-image"
      role="img"
      aria-label="Its small picture is being drawn"
  /></span>
</template>

<style scoped>
.small {
  display: block;
  aspect-ratio: 16 / 9;
  background: #000;
  border-radius: 4px;
  overflow: hidden;
  flex: none;
}
.missing {
  background: var(--panel);
  border: 1px dashed var(--edge);
  display: grid;
  place-items: center;
  color: var(--edge-strong);
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
  object-fit: cover;
}
</style>
