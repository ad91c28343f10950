<script setup lang="ts">
// The tempo, wherever it is best: which source rules, and the others beside it.
import { computed, ref } from 'vue'
import { learnsAction } from '../controls/learns'
import { act } from '../live/live'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import { useFrames } from '../live/useFrames'
import { Block, Status, type Packet } from '../live/wire'
import Choice from '../controls/Choice.vue'
import { write } from '../live/write'

const show = useShow()
const bpm = ref<HTMLElement>()
const tempo = computed(() => surface.value.tempo)
const NAMES: Record<string, string> = { sound: 'Sound', taps: 'Taps', midi: 'MIDI', osc: 'OSC' }
const MODES = [
  { value: 'auto', label: 'from the sound' },
  { value: 'held', label: 'held' },
  { value: 'locked', label: 'locked' },
  { value: 'midi', label: 'by MIDI clock' },
  { value: 'osc', label: 'by OSC' },
] as const
const tap = (): void => act({ event: 'tapped' })
const turn = (what: string): void =>
  act({
    event: 'action-done',
    action: { id: 'desk', family: 'action', kind: 'turn-beat', on: true, values: { what } },
    strength: 1,
    ended: false,
  })
function type(event: Event): void {
  const box = event.target as HTMLInputElement
  const value = Number(box.value)
  if (value >= 40 && value <= 240)
    show.edit(
      {
        edit: 'together',
        edits: [
          { edit: 'set', path: '/tempo/mode', value: 'held' },
          { edit: 'set', path: '/tempo/bpm', value },
        ],
      },
      'Tempo',
    )
  box.value = ''
}
function paint(packet: Packet): void {
  const status = packet.blocks.get(Block.status)
  if (status) write(bpm.value, status[Status.bpm]!.toFixed(1))
}
useFrames([Block.status], { paint })
</script>

<template>
  <div class="tempo" role="group" aria-label="Tempo">
    <b ref="bpm" class="num big">–––</b>
    <Choice
      :value="show.document?.tempo?.mode ?? 'auto'"
      :options="MODES"
      label="Where the tempo comes from"
      @choose="(mode) => show.set('/tempo/mode', mode, 'Beat')"
    />
    <button
      class="button tap"
      v-bind="learnsAction('tap')"
      @pointerdown.prevent="tap"
      @keydown.enter.prevent="tap"
    >
      Tap
    </button>
    <button
      class="button"
      v-bind="learnsAction('turn-beat', { what: 'now is the one' })"
      @click="turn('now is the one')"
    >
      The one
    </button>
    <button
      class="button"
      v-bind="learnsAction('turn-beat', { what: 'half' })"
      aria-label="Half the tempo"
      @click="turn('half')"
    >
      ½
    </button>
    <button
      class="button"
      v-bind="learnsAction('turn-beat', { what: 'double' })"
      aria-label="Double the tempo"
      @click="turn('double')"
    >
      ×2
    </button>
    <button
      class="button"
      v-bind="learnsAction('turn-beat', { what: 'sooner' })"
      aria-label="Beat 10 ms sooner"
      @click="turn('sooner')"
    >
      <i class="pi pi-angle-left" />
    </button>
    <button
      class="button"
      v-bind="learnsAction('turn-beat', { what: 'later' })"
      aria-label="Beat 10 ms later"
      @click="turn('later')"
    >
      <i class="pi pi-angle-right" />
    </button>
    <input class="num typed" placeholder="BPM" aria-label="Type a tempo" inputmode="decimal" @change="type" />
    <span class="others num">
      <span
        v-for="row in tempo.sources"
        :key="row.source"
        :class="{ rules: row.source === tempo.rules, sure: row.sure }"
        >{{ NAMES[row.source] }} {{ row.bpm ? row.bpm.toFixed(1) : '–' }}</span
      >
    </span>
  </div>
</template>

<style scoped>
.tempo {
  display: flex;
  align-items: center;
  gap: 5px;
  min-width: 0;
}
.big {
  font-size: 26px;
  min-width: 80px;
  text-align: right;
}
.button,
.typed {
  min-height: 44px;
  min-width: 40px;
  justify-content: center;
}
.tap {
  min-width: 74px;
  font-weight: 700;
  font-size: 17px;
  touch-action: manipulation;
}
.typed {
  width: 62px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  padding: 0 8px;
}
.others {
  display: grid;
  grid-template-columns: auto auto;
  column-gap: 10px;
  font-size: 13px;
  color: var(--soft);
  line-height: 1.3;
  white-space: nowrap;
}
.sure {
  color: var(--text);
}
.rules {
  color: var(--bolt);
  font-weight: 700;
}
</style>
