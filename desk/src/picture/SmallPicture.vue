<script setup lang="ts">
// A look or a layer in small, as Python drew it. It follows edits with some delay: never more than one is drawn at a time.
import { onScopeDispose, ref, watch } from 'vue'
import { api } from '../shared/api'

const props = defineProps<{ look: string; layer?: string; /** What it shows, to see that it changed. */ content: unknown }>()
const SETTLED_MS = 2500
const at = ref(0)
const missing = ref(false)
let timer = 0
const AGAIN_MS = 3000
/** It is being drawn, or cannot be: shown dark, and asked for again after a while. */
function missed(): void { missing.value = true; clearTimeout(timer); timer = window.setTimeout(() => at.value++, AGAIN_MS) }
watch(() => props.content, () => { clearTimeout(timer); timer = window.setTimeout(() => { at.value++ }, SETTLED_MS) })
onScopeDispose(() => clearTimeout(timer))
</script>

<template>
  <span class="small" :class="{ missing }"><img v-show="!missing" :src="api.thumbnail(look, layer, at)" alt="" draggable="false" @error="missed" @load="missing = false" /></span>
</template>

<style scoped>
.small { display: block; aspect-ratio: 16 / 9; background: #000; border-radius: 4px; overflow: hidden; flex: none } img { width: 100%; height: 100%; display: block; object-fit: cover }
</style>
