<script setup lang="ts">
// What a kind looks like, moving, as Python drew it.
import { computed, onScopeDispose, ref } from 'vue'
import { api, type KindInfo } from '../api/api'

const props = defineProps<{ kind: KindInfo }>()
const AGAIN_MS = 2000
// What has nothing to show before it is given something says so with a drawing.
const DRAWINGS: Record<string, string> = { picture: 'pi-image', clip: 'pi-video' }
const drawing = computed(
  () =>
    props.kind.parameters.map((parameter) => DRAWINGS[parameter.type]).find((icon) => icon !== undefined) ??
    '',
)
const tries = ref(0)
const there = ref(false)
let timer = 0
const again = (): void => {
  there.value = false
  timer = window.setTimeout(() => tries.value++, AGAIN_MS)
}
onScopeDispose(() => clearTimeout(timer))
</script>

<template>
  <span class="picture" :class="{ there }"
    ><i v-if="drawing" class="pi" :class="drawing" /><img
      v-else
      :key="tries"
      :src="api.kindPicture(props.kind.family, props.kind.kind, tries)"
      alt=""
      loading="lazy"
      @load="there = true"
      @error="again"
  /></span>
</template>

<style scoped>
.picture {
  display: block;
  aspect-ratio: 16 / 9;
  border-radius: 5px;
  overflow: hidden;
  background: var(--ground);
}
img {
  width: 100%;
  height: 100%;
  display: block;
  visibility: hidden;
}
i {
  display: grid;
  place-items: center;
  height: 100%;
  font-size: 30px;
  color: var(--hand);
}
.there img {
  visibility: visible;
}
</style>
