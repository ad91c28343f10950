<script setup lang="ts">
// One output on a screen: the picture and nothing else. It says how it goes; the desk shows it.
import { useEventListener, useWakeLock } from '@vueuse/core'
import { computed, onMounted, ref, watchEffect } from 'vue'
import { connected, lateness, report } from './live/live'
import { identified, shownOutput } from './live/outputs'
import type { Drawing } from './picture/useDrawing'
import OutputCanvas from './send/OutputCanvas.vue'
import { useScreens } from './send/screens'

const REPORT_MS = 1000
const ELSEWHERE = 'This browser cannot draw; Python draws for it, in small.'
const output = computed(() => shownOutput.value?.output ?? null)
const clear = computed(() => output.value?.ground === 'transparent')
const drawing = ref<Drawing | null>(null)
const fault = ref('')
/** Said to the desk alone: the wall has a picture. */
const elsewhere = ref('')

// Nothing else on the screen: no pointer, no words but for the first seconds and what went wrong.
const hint = ref(true)
onMounted(() => setTimeout(() => (hint.value = false), 4000))
watchEffect(() => {
  document.title = output.value?.name ?? 'Output'
  document.documentElement.style.background = clear.value ? 'transparent' : '#000'
})

const screens = useScreens()
useEventListener('keydown', (event: KeyboardEvent) => {
  const key = event.key.toLowerCase()
  if (key === 'f') screens.fill()
  if (key === 's') void screens.next()
})
useEventListener('dblclick', screens.fill)
const lock = useWakeLock()
const stayAwake = (): void => {
  if (lock.isSupported.value && document.visibilityState === 'visible')
    lock.request('screen').catch(() => undefined)
}
onMounted(stayAwake)
useEventListener(document, 'visibilitychange', stayAwake)

onMounted(() => {
  setInterval(() => {
    const now = drawing.value
    report({
      drawn: now?.perSecond ?? 0,
      dropped: now?.dropped ?? 0,
      late_ms: lateness.value,
      width: now?.width ?? 0,
      height: now?.height ?? 0,
      full: Boolean(document.fullscreenElement),
      hidden: document.hidden,
      held: now?.held ?? 0,
      changes: now?.changes ?? 0,
      fault: fault.value || elsewhere.value,
      screen: screens.name.value,
    })
  }, REPORT_MS)
})
</script>

<template>
  <main :class="{ clear }">
    <OutputCanvas
      v-if="output"
      :key="output.ground"
      :output="output"
      @measured="(now) => (drawing = now)"
      @fault="(words) => (fault = words)"
      @elsewhere="elsewhere = ELSEWHERE"
    />
    <p v-if="identified" class="name">{{ identified }}</p>
    <p v-else-if="fault">{{ fault }}</p>
    <p v-else-if="shownOutput && !output">{{ shownOutput.why }}</p>
    <p v-else-if="hint && !clear">F or a double click fills the screen, S takes the next screen</p>
    <span
      v-if="!connected"
      class="away"
      title="Cut off: the last picture stays, and it comes back by itself"
    />
  </main>
</template>

<style>
html,
body,
#app {
  height: 100%;
  margin: 0;
  cursor: none;
}
main {
  height: 100%;
  display: grid;
  place-items: center;
  overflow: hidden;
  background: #000;
}
main.clear {
  background: transparent;
}
p {
  position: fixed;
  bottom: 16px;
  color: #aaa1b8;
  font: 16px sans-serif;
  margin: 0;
}
p.name {
  inset: 0;
  display: grid;
  place-items: center;
  font-size: 14vw;
  font-weight: 700;
  color: #ffd84d;
  background: #0c0a12;
}
.away {
  position: fixed;
  right: 6px;
  bottom: 6px;
  width: 4px;
  height: 4px;
  border-radius: 50%;
  background: #aaa1b8;
}
</style>
