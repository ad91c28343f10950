<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import Toast from 'primevue/toast'
import { useToast } from 'primevue/usetoast'
import { computed, onMounted, ref, watch } from 'vue'
import Current from './Current.vue'
import RunSurface from './run/RunSurface.vue'
import SendWall from './send/SendWall.vue'
import PulseStrip from './strip/PulseStrip.vue'
import TrackSound from './hear/TrackSound.vue'
import Welcome from './Welcome.vue'
import { api, underWay } from './api/api'
import Carried from './controls/Carried.vue'
import { connected, framesPerSecond, giveBack, greeted, state } from './live/live'
import ParameterPanel from './controls/ParameterPanel.vue'
import { useGamePads, usePassedKeys } from './live/hands'
import { useShow } from './live/show'
import { surface } from './live/surface'
import KeysDialog from './controls/KeysDialog.vue'
import { actOf, type Act } from './controls/keys'
import { useCopying } from './controls/useCopying'
import { PLACES, type Column, type Place } from './columns'
import { useColumns } from './useColumns'

const show = useShow()
const toast = useToast()
const columns = useColumns(() => show.id)
const { open, wide, share } = columns
const instead = ref<'' | 'run' | 'send'>('')
const copying = useCopying()
const choosing = ref(false)
const keys = ref(false)

onMounted(show.load)
watch(
  () => show.id,
  () => {
    choosing.value = false
  },
)
watch(
  () => show.notice,
  (notice) =>
    notice && toast.add({ severity: 'warn', summary: notice.title, detail: notice.detail, life: 6000 }),
)

// What each key does stands in one table; what is done is said here.
function goTo(place: Place): void {
  instead.value = place === 'run' || place === 'send' ? place : ''
  if (place !== 'run' && place !== 'send') columns.openAlone(place)
}
function openBeside(column: Column): void {
  instead.value = ''
  columns.openBeside(column)
}
function act(what: Act): void {
  if (what.startsWith('open ')) goTo(what.slice('open '.length) as Place)
  else if (what.startsWith('beside ')) openBeside(what.slice('beside '.length) as Column)
  else if (what === 'undo' || what === 'redo') void show.step(what)
  else if (what === 'double') copying.double()
  else if (what === 'copy') void copying.copy()
  else if (what === 'keys') keys.value = true
  else if (what === 'blackout') show.toggleBlackout()
  else if (what === 'next-cue' && show.document?.cues?.length) api.cues.recall().catch(show.complain)
}
// Keys that are mapped, and all that can be learnt while something is, are controls like others.
const mapped = computed(() => new Set((show.document?.mappings ?? []).map((mapping) => mapping.source)))
const learning = computed(() => surface.value.learning !== null)
usePassedKeys(mapped, learning)
useGamePads()
useEventListener('keydown', (event: KeyboardEvent) => {
  const what = actOf(event)
  if (!what || (what === 'copy' && window.getSelection()?.toString())) return
  event.preventDefault()
  act(what)
})

// Enter ends typing: the focus leaves, and the keys are the desk's again.
useEventListener('keydown', (event: KeyboardEvent) => {
  const box = event.target
  if (event.key !== 'Enter' || !(box instanceof HTMLInputElement)) return
  // After what the box itself does with it; a box that was emptied for the next is left as well.
  setTimeout(() => document.activeElement === box && box.blur(), 0)
})

// Esc held hands everything back: routes let go, smoothly, and every value is the hand's again.
const HOLD_MS = 600
const HAND_BACK_MS = 800
let escape = 0
const escaping = ref(false)
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.key !== 'Escape' || event.repeat || !show.document) return
  escaping.value = true
  escape = window.setTimeout(() => {
    escaping.value = false
    giveBack('', HAND_BACK_MS)
    if (show.document?.sound_amount)
      api
        .edit({ edit: 'set', path: '/sound_amount', value: 0 }, 'Hand back', '', HAND_BACK_MS)
        .catch(show.complain)
  }, HOLD_MS)
})
useEventListener('keyup', (event: KeyboardEvent) => {
  if (event.key === 'Escape') {
    clearTimeout(escape)
    escaping.value = false
  }
})

// What takes no time needs no word.
const SLOW_MS = 250
const slow = ref(false)
let since = 0
watch(underWay, (count) => {
  clearTimeout(since)
  if (!count) slow.value = false
  else since = window.setTimeout(() => (slow.value = true), slow.value ? 0 : SLOW_MS)
})
const health = computed(() => {
  if (!connected.value) return { bad: true, text: 'The desk is cut off and tries again. The show goes on.' }
  if (!state.value.engine)
    return { bad: true, text: 'The engine is being started again. Your edits are kept.' }
  if (!state.value.saved) {
    const { fault, unsaved } = state.value
    const waiting = unsaved === 1 ? 'edit waits' : 'edits wait'
    return { bad: true, text: `${fault?.text} The show goes on; ${unsaved} ${waiting} to be saved.` }
  }
  if (state.value.unplayed) return { bad: true, text: `${state.value.unplayed} Undo it, or change it.` }
  return { bad: false, text: slow.value ? 'saving…' : 'all saved' }
})
</script>

<template>
  <div class="desk">
    <PulseStrip v-if="show.document" @shows="choosing = !choosing" />
    <Welcome
      v-if="choosing || (greeted && connected && !show.document)"
      :closable="!!show.document"
      @close="choosing = false"
    />
    <RunSurface v-else-if="show.document && instead === 'run'" />
    <SendWall v-else-if="show.document && instead === 'send'" />
    <Current
      v-else-if="show.document"
      :wide="wide"
      :share="share"
      @open="goTo"
      @beside="columns.openBeside"
      @part="columns.part"
    />
    <p v-else class="waiting soft">Reaching the show…</p>
    <footer>
      <button
        v-for="place in PLACES"
        :key="place.id"
        class="button plain keys"
        :class="{ on: place.id === (instead || open) || (!instead && wide.includes(place.id as Column)) }"
        @click="goTo(place.id)"
      >
        <kbd>{{ place.key }}</kbd> {{ place.title }}
      </button>
      <button class="button plain keys" @click="keys = true"><kbd>?</kbd> keys</button>
      <span class="grow" />
      <TrackSound v-if="show.document" />
      <span :class="{ bad: health.bad }" role="status" class="health">{{ health.text }}</span>
      <span class="num soft">{{ framesPerSecond }} frames/s</span>
    </footer>
    <p v-if="escaping" class="escaping" role="status">Keep holding Esc: everything goes back to your hand.</p>
    <ParameterPanel v-if="show.document" @open="goTo" />
    <Carried />
    <KeysDialog v-model="keys" />
    <Toast position="bottom-left" />
  </div>
</template>

<style scoped>
.desk {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr) 40px;
}
.waiting {
  place-self: center;
}
footer {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 14px;
  font-size: 13px;
  color: var(--soft);
  white-space: nowrap;
  overflow: hidden;
}
.keys.on {
  color: var(--text);
  font-weight: 700;
}
.keys {
  padding: 0 4px;
  font-size: 13px;
  color: var(--soft);
}
.escaping {
  position: fixed;
  bottom: 52px;
  left: 50%;
  transform: translateX(-50%);
  background: var(--ground);
  border: 2px solid var(--bolt);
  border-radius: 8px;
  padding: 10px 18px;
  margin: 0;
  z-index: 2000;
}
.bad {
  color: var(--alarm);
  font-weight: 600;
}
</style>
