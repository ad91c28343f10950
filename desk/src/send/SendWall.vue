<script setup lang="ts">
// Everywhere that the picture goes: from the looks at the left, bands of light to each output; choosing one opens
// its fitting.
import { computed, ref, watchEffect } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'
import FitView from './FitView.vue'
import FlashMinute from './FlashMinute.vue'
import GuardStrip from './GuardStrip.vue'
import OutputPanel from './OutputPanel.vue'
import OutputTile from './OutputTile.vue'
import Ways from './Ways.vue'

const show = useShow()
const outputs = computed(() => show.document?.outputs ?? [])
const chosen = ref('')
const output = computed(() => outputs.value.find((each) => each.id === chosen.value))
const wall = ref<HTMLElement>()
watchEffect(() => {
  if (chosen.value && !output.value) chosen.value = ''
})
async function add(overlay: boolean): Promise<void> {
  try {
    chosen.value = (await api.outputs.add('', overlay)).id
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <main class="send">
    <div class="top row">
      <h2>{{ output ? output.name : 'Send' }}</h2>
      <button v-if="output" class="button" @click="chosen = ''">
        <i class="pi pi-arrow-left" /> All outputs
      </button>
      <template v-else>
        <button class="button" @click="add(false)">+ Output</button>
        <button class="button" @click="add(true)">+ Overlay</button>
        <a class="button" href="/overlays" target="fulgura-overlays">Overlays over a test picture</a>
      </template>
    </div>
    <div v-if="output" class="body">
      <FitView :key="output.id" :output="output" />
      <OutputPanel :key="output.id" :output="output" @removed="chosen = ''" />
    </div>
    <div v-else ref="wall" class="wall">
      <Ways :outputs="outputs" :wall="wall" />
      <div class="tiles">
        <OutputTile
          v-for="each in outputs"
          :key="each.id"
          :output="each"
          :chosen="each.id === chosen"
          @choose="chosen = each.id"
        />
        <p v-if="!outputs.length" class="soft">
          The picture goes nowhere yet. Add an output, and open its address on a screen.
        </p>
      </div>
    </div>
    <footer class="row">
      <GuardStrip />
      <FlashMinute />
    </footer>
  </main>
</template>

<style scoped>
.send {
  min-height: 0;
  padding: 0 12px 8px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.row {
  display: flex;
  align-items: center;
  gap: 10px;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 12px;
}
.wall {
  position: relative;
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  overflow: auto;
}
.tiles {
  position: relative; /* Above the bands, which pass behind. */
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 18px 14px;
  align-content: start;
}
</style>
