<script setup lang="ts">
// Lets the room hear the track, or the house band, that the engine plays, and films, in step with them. The engine needs no
// browser to hear.
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { state, type InputState } from '../live/live'
import { MAIN, useShow } from '../live/show'
import { useFilmSounds } from './useFilmSounds'

const show = useShow()
const audio = new Audio()
const blocked = ref(false)
const muted = ref(localStorage.getItem('fulgura-muted') === '1')
const films = useFilmSounds(muted)
const OFF_S = 0.12
/** From here on the house band is led to its place at once. */
const FAR_S = 0.25
const house = computed(() => show.mainInput?.use === 'house')
const track = computed(() => (show.mainInput?.use === 'track' ? show.mainInput.track?.track : '') || '')
const playing = computed(() => house.value || (!!track.value && (show.mainInput?.track?.playing ?? true)))
/** What is played here: the track's file, or the house band as it is set. */
const source = computed(() => {
  if (!house.value) return track.value ? `/api/v1/tracks/${encodeURIComponent(track.value)}/audio` : ''
  const { tempo_bpm, density, level_db } = show.mainInput!.house!
  return `/api/v1/house-band/audio?tempo_bpm=${tempo_bpm}&density=${density}&level_db=${level_db}`
})

async function hear(): Promise<void> {
  await films.wake()
  await play()
}
async function play(): Promise<void> {
  if (!playing.value || muted.value) {
    audio.pause()
    return
  }
  try {
    await audio.play()
    blocked.value = false
  } catch (refused) {
    // A source that is changed meanwhile refuses as well: that one plays on by itself.
    blocked.value = refused instanceof DOMException && refused.name === 'NotAllowedError'
  }
}
// A slider that is pulled makes many sources: the last of them is enough.
const SETTLED_MS = 400
let soon = 0
watch(
  source,
  (url, before) => {
    clearTimeout(soon)
    soon = window.setTimeout(
      () => {
        if (url) audio.src = url
        else audio.removeAttribute('src')
        void play()
      },
      before === undefined ? 0 : SETTLED_MS,
    )
  },
  { immediate: true },
)
watch([playing, muted], () => {
  localStorage.setItem('fulgura-muted', muted.value ? '1' : '0')
  void play()
})
const speed = computed(() => (house.value ? 1 : (show.mainInput?.track?.speed ?? 1)))
const isPlayed = (input: InputState): boolean => house.value || input.track === track.value
audio.preservesPitch = false
watch(state, ({ inputs }) => {
  const input = inputs?.[MAIN]
  const place = house.value ? input?.in_bar_s : input?.position_s
  if (audio.paused || !input || place === undefined || !isPlayed(input)) return
  // Every bar of the house band is like the others: the nearest place will do.
  const bar = 240 / (show.mainInput?.house?.tempo_bpm ?? 120)
  const apart = place - audio.currentTime
  const off = house.value ? apart - bar * Math.round(apart / bar) : apart
  if (Math.abs(off) > (house.value ? FAR_S : 1)) audio.currentTime = Math.max(0, audio.currentTime + off)
  else audio.playbackRate = speed.value * (Math.abs(off) > OFF_S ? 1 + Math.sign(off) * 0.04 : 1)
})
audio.loop = true
onBeforeUnmount(() => {
  clearTimeout(soon)
  audio.pause()
})
</script>

<template>
  <button
    v-if="!muted && ((blocked && playing) || (films.asleep.value && films.playing.value))"
    class="button ask"
    @click="hear"
  >
    <i class="pi pi-volume-up" /> Let me hear it
  </button>
  <button
    v-else-if="playing || films.playing.value"
    v-tooltip.top="muted ? 'Hear here what is played' : 'Be quiet here (the show goes on)'"
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
