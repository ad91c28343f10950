<script setup lang="ts">
import { computed } from 'vue'
import { useShow } from '../live/show'
import PictureView from './PictureView.vue'

const show = useShow()
const layers = computed(() => [...(show.look?.layers ?? [])].reverse())
</script>

<template>
  <PictureView :largest="320" :one-in="2" upright />
  <strong>{{ show.look?.name }}</strong>
  <div v-for="layer in layers" :key="layer.id" class="layer">
    <span>{{ layer.name }}</span>
    <small v-for="effect in layer.effects" :key="effect.id" :class="{ off: !effect.on }">{{
      show.kindOf(effect)?.title
    }}</small>
  </div>
  <div class="layer">
    <span>Finish</span
    ><small v-for="effect in show.look?.finish" :key="effect.id" :class="{ off: !effect.on }">{{
      show.kindOf(effect)?.title
    }}</small>
  </div>
</template>

<style scoped>
strong {
  font-size: 14px;
}
.layer {
  border-left: 2px solid var(--edge-strong);
  padding-left: 8px;
  line-height: 1.3;
}
small {
  display: block;
  color: var(--soft);
  font-size: 13px;
}
.off {
  text-decoration: line-through;
}
</style>
