<script setup lang="ts">
// What the guard does and why; switching it off takes a sentence; a report looks at a look or a track beforehand.
import Drawer from 'primevue/drawer'
import { computed, ref } from 'vue'
import { api, type FlashReport } from '../api/api'
import Choice from '../controls/Choice.vue'
import { state } from '../live/live'
import { heldPercent } from '../live/outputs'
import { useShow } from '../live/show'

const props = defineProps<{ held: number }>()
const emit = defineEmits<{ close: [] }>()
const show = useShow()
const guard = computed(() => show.document?.guard ?? { on: true, why_off: '' })
const causes = computed(() => state.value.guard?.causes ?? [])
const lamps = computed(() => state.value.lights?.held_back?.length ?? 0)
const percent = computed(() => heldPercent(props.held))
const why = ref('')
const enough = computed(() => why.value.trim().split(/\s+/).length >= show.rules.words_why)
function turn(on: boolean): void {
  show.set('/guard', { on, why_off: on ? '' : why.value.trim() }, on ? 'Guard on' : 'Guard off')
  why.value = ''
}

const look = ref('')
const looks = computed(() => [
  { value: '', label: 'Every look of the show' },
  ...(show.document?.looks ?? []).map((each) => ({ value: each.id, label: each.name })),
])
const SECONDS = [10, 30, 60, 300].map((value) => ({ value, label: `${value} seconds` }))
const seconds = ref(10)
const track = ref('')
const tracks = computed(() => [
  { value: '', label: 'The house band' },
  ...show.tracks.map((each) => ({ value: each.id, label: each.title })),
])
const working = ref(false)
const report = ref<FlashReport | null>(null)
async function look_at(): Promise<void> {
  working.value = true
  try {
    report.value = await api.guard.report(look.value, track.value, seconds.value)
  } catch (error) {
    show.complain(error)
  }
  working.value = false
}
</script>

<template>
  <Drawer visible position="right" header="Guard" class="editor" @update:visible="emit('close')">
    <p v-if="guard.on">
      It keeps every picture and every lamp from flashing more than three times in a second over a quarter of
      what is seen: what alternates too often loses contrast, and goes on. All else stays as it is.
    </p>
    <p v-else class="bad">It is off for this show: “{{ guard.why_off }}”</p>
    <p v-if="guard.on" role="status">
      <strong v-if="percent">It holds back {{ percent }} % of the picture now.</strong>
      <template v-else>It holds nothing back now.</template>
      <template v-if="lamps"> It holds back {{ lamps === 1 ? 'one lamp' : `${lamps} lamps` }}.</template>
    </p>
    <template v-if="causes.length">
      <h3>What moves most often</h3>
      <ul>
        <li v-for="cause in causes" :key="cause.target">
          {{ cause.text }}, <span class="num">{{ cause.a_second.toFixed(0) }}</span> times a second
        </li>
      </ul>
    </template>
    <h3>For this show</h3>
    <button v-if="!guard.on" class="button on" @click="turn(true)">Switch it on</button>
    <form v-else @submit.prevent="turn(false)">
      <label class="soft"
        >Why it goes off, in a sentence
        <input v-model="why" maxlength="300" placeholder="Everyone in the room has been asked and warned" />
      </label>
      <button class="button danger" :disabled="!enough">Switch it off</button>
    </form>
    <h3>Look beforehand</h3>
    <div class="row">
      <Choice :value="look" :options="looks" label="Look" @choose="(id) => (look = id)" />
      <Choice :value="track" :options="tracks" label="Track" @choose="(id) => (track = id)" />
      <Choice :value="seconds" :options="SECONDS" label="How long" @choose="(s) => (seconds = s)" />
      <button class="button" :disabled="working" @click="look_at">
        {{ working ? 'Drawing…' : 'Draw and count' }}
      </button>
    </div>
    <table v-if="report" aria-label="Flashes of looks">
      <thead>
        <tr>
          <th>Look</th>
          <th>By itself</th>
          <th>Guarded</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in report.looks" :key="row.look">
          <td>{{ row.name }}</td>
          <td class="num" :class="{ bad: !row.alone.safe }">
            {{ row.alone.flashes }} in a second, {{ Math.round(row.alone.area * 100) }} %
          </td>
          <td class="num" :class="{ bad: !row.guarded.safe }">{{ row.guarded.flashes }}</td>
        </tr>
      </tbody>
    </table>
    <a v-if="report" class="button" href="/api/v1/guard/report.html" target="fulgura-guard"
      >Open the report</a
    >
  </Drawer>
</template>

<style scoped>
.bad {
  color: var(--alarm);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
form {
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: flex-start;
}
label {
  display: flex;
  flex-direction: column;
  width: 100%;
}
input {
  min-height: 36px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  padding: 0 8px;
}
table {
  width: 100%;
  margin: 10px 0;
  font-size: 13px;
}
th,
td {
  text-align: left;
  padding: 3px 6px;
}
</style>
