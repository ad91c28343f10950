<script setup lang="ts">
import { useEventListener, useWakeLock } from '@vueuse/core'
import { onMounted, ref } from 'vue'
import PictureView from './picture/PictureView.vue'

const hint = ref(true)
const lock = useWakeLock()
const fill = (): void => {
  if (document.fullscreenElement) void document.exitFullscreen()
  else void document.documentElement.requestFullscreen()
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.key.toLowerCase() === 'f') fill()
})
useEventListener('dblclick', fill)
onMounted(() => {
  setTimeout(() => {
    hint.value = false
  }, 4000)
  if (lock.isSupported.value) lock.request('screen').catch(() => undefined)
})
</script>

<template>
  <main>
    <PictureView :largest="1920" class="view" />
    <p v-if="hint">F or a double click fills the screen</p>
  </main>
</template>

<style>
html,
body,
#app {
  height: 100%;
  margin: 0;
  background: #000;
  cursor: none;
}
main {
  height: 100%;
  display: grid;
  place-items: center;
  overflow: hidden;
}
.view {
  width: min(100vw, 177.78vh);
  border-radius: 0 !important;
}
p {
  position: fixed;
  bottom: 16px;
  color: #aaa1b8;
  font: 16px sans-serif;
  margin: 0;
}
</style>
