<script setup lang="ts">
// Where the beat is and how fast; pale while it is unsure.
import { computed, ref } from 'vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import { beatS } from '../live/beat'
import { useFrames } from '../live/useFrames'
import { Block, Status, type Packet } from '../live/wire'
import { write } from '../live/write'

const show = useShow()
const tempo = ref<HTMLElement>()
const lamps = ref<HTMLElement[]>([])
const beats = ref(4)
const sure = ref(false)
// A tempo that is given stands there whatever is heard.
const given = computed(() => (show.document?.tempo?.mode ?? 'auto') !== 'auto')

function paint(packet: Packet): void {
  const status = packet.blocks.get(Block.status)
  if (!status || !tempo.value) return
  const confident = status[Status.confidence]! > show.rules.confident
  sure.value = confident
  write(tempo.value, confident || given.value ? status[Status.bpm]!.toFixed(1) : '–––')
  const inBar = status[Status.beatsABar] || 4
  const interval = Math.round(status[Status.interval]! * 1000) / 1000
  if (interval > 0 && interval !== beatS.value) beatS.value = interval
  if (beats.value !== inBar) beats.value = inBar
  const beatInBar = status[Status.barPhase]! * inBar
  const fade = 1 - (beatInBar % 1)
  lamps.value.forEach((lamp, i) => {
    const lit = confident && i === Math.floor(beatInBar)
    lamp.style.opacity = lit ? '1' : '0.28'
    lamp.style.boxShadow = lit ? `0 0 ${Math.round(14 * fade)}px var(--bolt)` : 'none'
    lamp.style.background = lit ? 'var(--bolt)' : 'transparent'
  })
}
useFrames([Block.status], { paint })

// Only a first beat that is sure is round.
const downbeatSure = computed(() => state.value.beat?.downbeat_sure ?? false)
const beatsSay = computed(() =>
  downbeatSure.value
    ? 'The beats of the bar; the round one is the first'
    : 'The beats of the bar; which is the first is unsure. Mark it under Beat in Hear',
)
const fits = computed(() => state.value.beat?.fits ?? true)
const tempoSays = computed(() => {
  if (!sure.value) return 'No steady beat is heard yet'
  return fits.value ? 'Tempo' : 'What plays has no clear beat, or fits another as well. See Beat in Hear'
})
</script>

<template>
  <div v-tooltip.bottom="beatsSay" class="beats" role="img" :aria-label="beatsSay">
    <span v-for="n in beats" :key="n" ref="lamps" class="beat" :class="{ one: n === 1 && downbeatSure }" />
  </div>
  <span v-tooltip.bottom="tempoSays" class="tempo"
    ><span ref="tempo" class="num big" data-testid="tempo">–––</span>
    <span class="soft">{{ sure && fits ? 'BPM' : 'unsure' }}</span></span
  >
</template>

<style scoped>
.beats {
  display: flex;
  gap: 5px;
}
.beat {
  width: 14px;
  height: 14px;
  border-radius: 4px;
  border: 2px solid var(--bolt);
  opacity: 0.28;
}
.beat.one {
  border-radius: 50%;
}
.tempo {
  display: inline-flex;
  align-items: baseline;
  gap: 6px;
  min-width: 116px;
}
.big {
  font-size: 21px;
  font-weight: 700;
}
</style>
