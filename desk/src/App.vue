<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import Toast from 'primevue/toast'
import { useToast } from 'primevue/usetoast'
import { computed, onMounted, ref, watch } from 'vue'
import Current from './Current.vue'
import PulseStrip from './PulseStrip.vue'
import TrackSound from './hear/TrackSound.vue'
import Welcome from './Welcome.vue'
import { api } from './shared/api'
import Carried from './shared/Carried.vue'
import { connected, framesPerSecond, giveBack, greeted, state } from './shared/live'
import ParameterPanel from './shared/ParameterPanel.vue'
import { useShow } from './shared/show'
import { COLUMNS, type Column } from './shared/columns'

const show = useShow()
const toast = useToast()
const open = ref<Column>('hear')
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

useEventListener('keydown', (event: KeyboardEvent) => {
  const typing = [HTMLInputElement, HTMLSelectElement, HTMLTextAreaElement].some(
    (kind) => event.target instanceof kind,
  )
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !typing) {
    event.preventDefault()
    void show.step(event.shiftKey ? 'redo' : 'undo')
  }
  if (typing || event.ctrlKey || event.metaKey || event.altKey) return
  const column = COLUMNS.find((one) => one.key === event.key)
  if (column) open.value = column.id
  if (event.key === '?') keys.value = !keys.value
  if (event.key.toLowerCase() === 'b' && show.document)
    show.set('/blackout', !show.document.blackout, 'Blackout')
  if (event.key.toLowerCase() === 'g' && !event.repeat && show.document?.cues?.length)
    api.recallCue().catch(show.complain)
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

const health = computed(() => {
  if (!connected.value) return { bad: true, text: 'The desk is cut off and tries again. The show goes on.' }
  if (!state.value.engine)
    return { bad: true, text: 'The engine is being started again. Your edits are kept.' }
  if (!state.value.saved)
    return {
      bad: true,
      text: `${state.value.trouble} The show goes on; ${state.value.unsaved} ${state.value.unsaved === 1 ? 'edit waits' : 'edits wait'} to be saved.`,
    }
  return { bad: false, text: 'all saved' }
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
    <Current v-else-if="show.document" v-model:open="open" />
    <p v-else class="waiting soft">Reaching the show…</p>
    <footer>
      <span v-for="column in COLUMNS" :key="column.id"
        ><kbd>{{ column.key }}</kbd> {{ column.title }}</span
      >
      <span><kbd>?</kbd> keys</span>
      <span v-if="keys" class="keys"
        >Ctrl+Z undo · Ctrl+Shift+Z redo · B blackout · G next cue · Esc held: hand back · on a value: arrows
        move it, F held freezes it, W says why it does not move, Backspace its default</span
      >
      <span class="grow" />
      <TrackSound v-if="show.document" />
      <span :class="{ bad: health.bad }" role="status" class="health">{{ health.text }}</span>
      <span class="num soft">{{ framesPerSecond }} frames/s</span>
    </footer>
    <p v-if="escaping" class="escaping" role="status">Keep holding Esc: everything goes back to your hand.</p>
    <ParameterPanel v-if="show.document" @open="(column) => (open = column)" />
    <Carried />
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
kbd {
  font:
    12px 'JetBrains Mono Variable',
    monospace;
  border: 1px solid var(--edge);
  border-radius: 4px;
  padding: 1px 6px;
  color: var(--text);
}
.keys {
  color: var(--text);
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
