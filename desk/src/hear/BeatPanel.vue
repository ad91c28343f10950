<script setup lang="ts">
// The beat in the performer's hand: tap it, hold it, let it run on, halve, double, nudge, mark the one.
import { computed } from 'vue'
import { api, type BeatTurn } from '../api/api'
import { act, state } from '../live/live'
import { surface } from '../live/surface'
import ParameterControl from '../controls/ParameterControl.vue'
import { useShow } from '../live/show'

const show = useShow()
const tempo = computed(() => show.document!.tempo!)
const parameters = computed(() => show.parametersOf(show.kind('listening', 'tempo-setting'), tempo.value))
const hand = computed(() => state.value.beat)
const taps = computed(() => surface.value.tempo.taps)
const turn = (what: BeatTurn['what'], milliseconds = 0): void => {
  api.turnBeat(what, milliseconds).catch(show.complain)
}
const tap = (): void => act({ event: 'tapped' })
const UNSURE =
  'Tempo and beat are unsure: what plays has no clear beat, or fits another tempo or the off-beat as well. ' +
  'If they are wrong, tap three times on the beat, or press Half or Double.'
const SAYS = computed(
  () =>
    ({
      auto:
        hand.value?.fits === false
          ? UNSURE
          : 'Tempo and beat are heard. Tap three times to hold a tempo of your own.',
      held:
        hand.value?.fits === false
          ? 'The tempo is held, but what plays does not fit it.'
          : 'The tempo is held; the beat stays in step with what is heard at that tempo.',
      locked: 'The beat runs on by itself, whatever is heard.',
      midi: surface.value.tempo.says || 'A MIDI clock counts the beat.',
      osc: surface.value.tempo.says || 'OSC messages count the beat.',
    })[tempo.value.mode ?? 'auto'],
)
const ONE_SAYS = computed(() => {
  if (hand.value?.marked) return 'The one is where you marked it.'
  if (hand.value?.downbeat_sure) return 'The one is heard.'
  return 'Which beat is the one is unsure: press "Now is the one" on it.'
})
</script>

<template>
  <div class="card">
    <button
      class="button tap"
      @pointerdown.prevent="tap"
      @keydown.space.prevent="tap"
      @keydown.enter.prevent="tap"
    >
      Tap<span v-if="taps && taps < 3" class="soft num">{{ 3 - taps }} more</span>
    </button>
    <ParameterControl
      v-for="parameter in parameters"
      :key="parameter.name"
      :parameter="parameter"
      :value="(tempo as unknown as Record<string, number>)[parameter.name]!"
      @change="(value, gesture) => show.set(`/tempo/${parameter.name}`, value, parameter.title, gesture)"
    />
    <div class="pair">
      <button class="button" @click="turn('half')">Half</button
      ><button class="button" @click="turn('double')">Double</button>
    </div>
    <div class="pair">
      <button class="button" aria-label="Beat 10 ms sooner" @click="turn('nudge', -10)">
        <i class="pi pi-angle-left" />10 ms</button
      ><button class="button" aria-label="Beat 10 ms later" @click="turn('nudge', 10)">
        10 ms<i class="pi pi-angle-right" />
      </button>
    </div>
    <button class="button" :class="{ on: hand?.marked }" @click="turn('downbeat')">Now is the one</button>
    <button
      v-if="hand && (hand.marked || hand.leaned || hand.nudged_ms)"
      class="button"
      @click="turn('anew')"
    >
      Hear it anew<span v-if="hand.nudged_ms" class="soft num">{{ hand.nudged_ms }} ms</span>
    </button>
    <p class="soft">{{ SAYS }} {{ ONE_SAYS }}</p>
  </div>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.tap {
  min-height: 64px;
  justify-content: center;
  font-size: 19px;
  font-weight: 700;
  touch-action: manipulation;
}
.pair {
  display: flex;
  gap: 8px;
}
.pair .button {
  flex: 1;
  justify-content: center;
}
.button {
  justify-content: center;
}
p {
  margin: 0;
  font-size: 14px;
}
</style>
