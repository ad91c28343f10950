<script setup lang="ts">
// The surface for the night itself: the night line, the picture, the next cues, songs, and under the hand pads
// and faders.
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { hearMidi } from '../live/midi'
import { setLearnMode, takeLearning } from '../controls/learns'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import PictureView from '../picture/PictureView.vue'
import CuePanel from './CuePanel.vue'
import FaderPanel from './FaderPanel.vue'
import MappingSheet from './MappingSheet.vue'
import NextCues from './NextCues.vue'
import NightLine from './NightLine.vue'
import PadGrid from './PadGrid.vue'
import PadPanel from './PadPanel.vue'
import RunBar from './RunBar.vue'
import SongList from './SongList.vue'
import { useBeats } from './useBeats'

const show = useShow()
const left = useBeats()
const editing = ref(false)
const sheet = ref(false)
const chosenPad = ref('')
const chosenFader = ref(-1)
const chosenCue = ref('')
const page = computed(() => (show.document?.pages ?? []).find((page) => page.id === surface.value.page))
const pad = computed(() => page.value?.pads?.find((pad) => pad.id === chosenPad.value))
const fader = computed(() => page.value?.faders?.find((fader) => fader.at === chosenFader.value))
const cue = computed(() => (show.document?.cues ?? []).find((cue) => cue.id === chosenCue.value))
const look = computed(() => show.look?.name ?? 'no look')
// In learn mode a press asks for a control, and does nothing else.
for (const kind of ['pointerdown', 'click', 'keydown'] as const)
  useEventListener(window, kind, takeLearning, { capture: true })
onMounted(() => void hearMidi())
onBeforeUnmount(() => setLearnMode(false))
</script>

<template>
  <main class="run">
    <NightLine class="dims" />
    <div class="middle">
      <div class="shown dims">
        <PictureView :largest="480" :one-in="2" class="view" />
        <strong>{{ look }}</strong>
      </div>
      <NextCues :left="left" @edit="(id) => (chosenCue = id)" />
      <SongList class="list" :editing="editing" />
    </div>
    <RunBar :editing="editing" @edit="editing = !editing" @sheet="sheet = true" />
    <PadGrid
      v-if="page"
      :page="page"
      :editing="editing"
      :left="left"
      @pad="(id) => (chosenPad = id)"
      @fader="(at) => (chosenFader = at)"
    />
    <p v-else class="soft none">
      No pads yet: a page holds sixteen pads and eight faders, for what you do with a hand at night. Press
      “Page” to begin one.
    </p>
    <PadPanel v-if="pad && page" :pad="pad" :page="page.id!" @close="chosenPad = ''" />
    <FaderPanel
      v-if="chosenFader >= 0 && page"
      :fader="fader"
      :at="chosenFader"
      :page="page.id!"
      @close="chosenFader = -1"
    />
    <CuePanel v-if="cue" :cue="cue" @close="chosenCue = ''" />
    <MappingSheet v-if="sheet" @close="sheet = false" />
  </main>
</template>

<style scoped>
.run {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto auto auto minmax(96px, 128px);
  grid-template-columns: minmax(0, 1fr);
  gap: 7px;
  padding: 0 10px;
  min-height: 0;
}
.middle {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr) 308px;
  gap: 10px;
  min-height: 0;
}
.shown {
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-height: 0;
  font-size: 18px;
}
.view {
  width: 100%;
}
.none {
  grid-row: 5 / 7;
  font-size: 17px;
  place-self: center;
}
</style>

<style>
body[data-learning] .dims {
  opacity: 0.25;
}
body[data-learning] [data-learn] {
  outline: 2px dashed var(--bolt);
  outline-offset: -2px;
}
.run .p-select {
  min-height: 40px;
  min-width: 40px;
}
.p-drawer-right .editor.p-drawer {
  width: 420px;
}
</style>
