<script setup lang="ts">
// How loud it is, and what keeps it there: loudness, following, the floor, and which channels are heard.
import { computed, ref } from 'vue'
import { api } from '../api/api'
import { state, statusOf } from '../live/live'
import { useFrames } from '../live/useFrames'
import LearnFader from '../controls/LearnFader.vue'
import SettingControls from '../controls/SettingControls.vue'
import { useShow } from '../live/show'
import { Block, Status, type Packet } from '../live/wire'
import { write } from '../live/write'

const show = useShow()
const level = computed(() => show.input!.level!)
const parameters = computed(() => show.kind('input', 'level-setting')?.parameters ?? [])
const gainParameters = computed(() => show.kind('input', 'input')?.parameters ?? [])
const room = computed(() => state.value.inputs?.[show.input!.id]?.room ?? {})
const ROWS = [
  {
    title: 'Peak',
    at: Status.peak,
    help: 'The highest sample of the last moment; the line holds the highest of the last seconds',
    peak: true,
  },
  { title: 'RMS', at: Status.rms, help: 'Level over 0.3 s; a full-scale sine is 0 dBFS (AES17)', peak: true },
  { title: 'Momentary', at: Status.momentary, help: 'Loudness of the last 0.4 s (ITU-R BS.1770)' },
  { title: 'Short-term', at: Status.shortTerm, help: 'Loudness of the last 3 s: what following holds' },
]
const bars = ref<HTMLElement[]>([])
const readings = ref<HTMLElement[]>([])
const gain = ref<HTMLElement>()
const share = (level: number, lowest = -50): number => Math.min(1, Math.max(0, 1 - level / lowest))
const HOLD_MS = 2500
let held = -120
let heldAt = 0
const holdMark = ref<HTMLElement[]>([])
const clips = ref(0)
const forgiven = ref(0)

function paint(packet: Packet): void {
  const status = statusOf(packet, show.input!.id)
  if (!status) return
  const peak = status[Status.peak]!
  const now = performance.now()
  if (peak > held || now - heldAt > HOLD_MS) {
    held = peak
    heldAt = now
  }
  ROWS.forEach((row, i) => {
    const level = status[row.at]!
    if (bars.value[i]) bars.value[i]!.style.transform = `scaleX(${share(level, row.peak ? -60 : -50)})`
    const shown = row.at === Status.peak ? held : level
    if (readings.value[i]) write(readings.value[i], shown < (row.peak ? -90 : -70) ? '–∞' : shown.toFixed(1))
  })
  if (holdMark.value[0]) holdMark.value[0].style.left = `${share(held, -60) * 100}%`
  clips.value = status[Status.clips]!
  const turned = status[Status.followed]!
  const open = status[Status.open]! > 0.5
  const following = level.value.follow ? `Following: ${turned >= 0 ? '+' : ''}${turned.toFixed(1)} dB` : ''
  const text = open ? following : 'Closed: quieter than the floor'
  write(gain.value, text)
}
useFrames([Block.status], { paint })
</script>

<template>
  <div class="card">
    <div v-for="row in ROWS" :key="row.title" v-tooltip.left="row.help" class="meter">
      <div class="row">
        <span class="grow">{{ row.title }}</span><span ref="readings" class="num">–∞</span
        ><span class="num soft">{{ row.peak ? 'dBFS' : 'LUFS' }}</span>
      </div>
      <div class="groove">
        <div ref="bars" class="fill" />
        <i v-if="!row.peak" class="aim" :style="{ left: `${share(level.target_lufs ?? -16) * 100}%` }" /><i
          v-else-if="row.at === Status.peak"
          ref="holdMark"
          class="aim held"
        />
      </div>
    </div>
    <button v-if="clips > forgiven" class="button clip" data-testid="clips" @click="forgiven = clips">
      <span class="num">{{ clips - forgiven }}</span>&nbsp;blocks clipped: lower the gain. Tap to count anew.
    </button>
    <SettingControls
      :key="show.input!.id"
      :owner="`input@${show.input!.id}`"
      :path="`/inputs/${show.input!.id}`"
      :values="show.input!"
      :parameters="gainParameters"
      name=""
    />
    <LearnFader :target="`/inputs/${show.input!.id}/gain_db`" title="Gain" />
    <p ref="gain" class="note" role="status" data-testid="following" />
    <SettingControls
      :key="`${show.input!.id} level`"
      :owner="`level@${show.input!.id}`"
      :path="`/inputs/${show.input!.id}/level`"
      :values="level"
      :parameters="parameters"
      name=""
    />
    <button
      class="button"
      :disabled="(room.left_s ?? 0) > 0"
      @click="api.listenToRoom(show.input!.id).catch(show.complain)"
    >
      <i class="pi pi-volume-down" />{{
        room.left_s ? `Listening… ${room.left_s.toFixed(1)} s` : 'Listen to the empty room'
      }}
    </button>
    <div v-if="room.room_dbfs !== undefined" class="row found">
      <span class="grow"
        >The room: <span class="num">{{ room.room_dbfs.toFixed(1) }}</span> dBFS</span
      >
      <button
        class="button"
        @click="show.set(`/inputs/${show.input!.id}/level/floor_dbfs`, room.proposed_dbfs, 'Floor')"
      >
        Floor to <span class="num">{{ room.proposed_dbfs!.toFixed(0) }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.groove {
  position: relative;
  height: 10px;
  border-radius: 3px;
  background: var(--ground);
  overflow: hidden;
}
.fill {
  position: absolute;
  inset: 0;
  transform-origin: left;
  transform: scaleX(0);
  background: var(--moss);
}
.clip {
  color: var(--alarm);
  border-color: var(--alarm);
  height: auto;
  padding: 6px;
  white-space: normal;
}
.held {
  background: var(--text) !important;
}
.aim {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--hand);
}
.row {
  gap: 5px;
}
.note {
  margin: 0;
  min-height: 19px;
  font-size: 14px;
  color: var(--bolt);
}
.found {
  font-size: 14px;
}
</style>
