<script setup lang="ts">
// Lets the room hear the track that the engine plays, in step with it. The engine needs no browser to hear.
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { state } from '../live/live'
import { MAIN, useShow } from '../live/show'

const show = useShow()
const audio = new Audio()
const blocked = ref(false)
const muted = ref(localStorage.getItem('fulgura-muted') === '1')
const OFF_S = 0.12
const track = computed(() => (show.mainInput?.use === 'track' ? show.mainInput.track?.track : '') || '')
const playing = computed(() => !!track.value && (show.mainInput?.track?.playing ?? true))

async function play(): Promise<void> {
  if (!playing.value || muted.value) {
    audio.pause()
    return
  }
  try {
    await audio.play()
    blocked.value = false
  } catch {
    blocked.value = true
  }
}
watch(
  track,
  (id) => {
    audio.src = id ? `/api/v1/tracks/${encodeURIComponent(id)}/audio` : ''
    void play()
  },
  { immediate: true },
)
watch([playing, muted], () => {
  localStorage.setItem('fulgura-muted', muted.value ? '1' : '0')
  void play()
})
const speed = computed(() => show.mainInput?.track?.speed ?? 1)
audio.preservesPitch = false
watch(state, ({ inputs }) => {
  const input = inputs?.[MAIN]
  if (audio.paused || input?.position_s === undefined || input.track !== track.value) return
  const off = input.position_s - audio.currentTime
  if (Math.abs(off) > 1) audio.currentTime = input.position_s
  else audio.playbackRate = speed.value * (Math.abs(off) > OFF_S ? 1 + Math.sign(off) * 0.04 : 1)
})
audio.loop = true
onBeforeUnmount(() => audio.pause())
</script>

<template>
  <button v-if="blocked && playing && !muted" class="button ask" @click="play">
    <i class="pi pi-volume-up" /> Let me hear it
  </button>
  <button
    v-else-if="playing"
    v-tooltip.top="muted ? 'Hear the track here' : 'Be quiet here (the show goes on)'"
    class="button plain mute"
    :aria-pressed="muted"
    :aria-label="muted ? 'Sound is off here' : 'Sound is on here'"
    @click="muted = !muted"
  >
    <i class="pi" :class="muted ? 'pi-volume-off' : 'pi-volume-up'" />
  </button>
</template>

<style scoped>
.ask {
  border-color: var(--bolt);
  color: var(--bolt);
  min-height: 34px;
}
.mute {
  min-height: 34px;
}
</style>
