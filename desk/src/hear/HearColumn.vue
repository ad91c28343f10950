<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '../api/api'
import { hertz } from '../controls/format'
import TabRow from '../controls/TabRow.vue'
import { layout, state } from '../live/live'
import { useShow } from '../live/show'
import { signalColour } from '../tokens'
import BandPanel from './BandPanel.vue'
import BeatPanel from './BeatPanel.vue'
import InputPanel from './InputPanel.vue'
import LevelPanel from './LevelPanel.vue'
import MorePanel from './MorePanel.vue'
import Score from './score/Score.vue'

const show = useShow()
const why = ref('')
const chosen = ref('low')
const finding = ref(false)
const panel = ref<InstanceType<typeof BandPanel>>()
const PANELS = (['Input', 'Level', 'Bands', 'Beat', 'More'] as const).map((panel) => ({
  value: panel,
  label: panel,
}))
const open = ref<(typeof PANELS)[number]['value']>('Input')
const inputs = computed(() =>
  (show.document?.inputs ?? []).map((input) => ({
    value: input.id,
    label: input.name,
    warning: state.value.inputs?.[input.id]?.fault ? 'no sound' : '',
  })),
)
const bands = computed(() => show.document?.bands?.filter((band) => band.input === show.input?.id) ?? [])
const band = computed(() => bands.value.find((band) => band.id === chosen.value) ?? bands.value[0])
// A detector that looks set wrongly is spoken of while nothing else is.
const wrong = computed(() => {
  const found = Object.entries(state.value.inputs?.[show.input?.id ?? '']?.hits ?? {}).find(
    ([, health]) => health.warning,
  )
  return found ? `${show.signals.get(`hit-${found[0]}`)?.name}: ${found[1].warning}` : ''
})
const FINDING = 'Click the drum or the voice in the score: the band that separates it best is proposed.'
const HELP =
  'Drag a rail to move its band, pull its ends to widen it. Solid marks are counted hits; point at a ' +
  'hollow one to read why it was not.'
const says = computed(() => (finding.value ? FINDING : why.value || wrong.value || HELP))
const colour = (id: string): string => signalColour(show.signals.get(`band-${id}`))

async function find(t: number, hz: number): Promise<void> {
  finding.value = false
  try {
    const found = await api.findBand(show.input!.id, t, hz)
    panel.value?.add(found.low_hz, found.high_hz, `At ${hertz(hz)}`)
    const between = `between ${hertz(found.low_hz)} and ${hertz(found.high_hz)}`
    why.value = `It stands out by ${found.contrast_db.toFixed(0)} dB ${between}.`
  } catch (error) {
    show.complain(error)
  }
}
function take(id: string): void {
  chosen.value = id
  open.value = 'Bands'
}
</script>

<template>
  <div class="top row">
    <h2>Hear</h2>
    <span v-if="band" class="num soft"
      ><b :style="{ color: colour(band.id) }">{{ band.name }}</b> {{ hertz(band.low_hz!) }}–{{
        hertz(band.high_hz!)
      }}</span
    >
    <span class="soft">last 8 s</span>
    <span class="grow" />
    <TabRow :value="open" :tabs="PANELS" label="What to set" @choose="(to) => (open = to)" />
  </div>
  <div class="body">
    <Score
      v-if="layout && show.input"
      :key="show.input.id"
      :input="show.input.id"
      :chosen="band?.id ?? ''"
      :finding="finding"
      @reject="(text) => (why = text)"
      @find="find"
      @choose="take"
    />
    <aside class="scroll">
      <TabRow
        v-if="inputs.length > 1"
        class="inputs"
        loose
        :value="show.input?.id ?? ''"
        :tabs="inputs"
        label="Which input"
        @choose="(to) => (show.chosenInput = to)"
      />
      <InputPanel v-if="open === 'Input'" />
      <LevelPanel v-else-if="open === 'Level'" />
      <BandPanel
        v-else-if="open === 'Bands'"
        ref="panel"
        v-model="chosen"
        :finding="finding"
        @find="finding = !finding"
      />
      <BeatPanel v-else-if="open === 'Beat'" />
      <MorePanel v-else />
    </aside>
  </div>
  <p class="why" :class="wrong && !why && !finding ? 'wrong' : 'soft'">
    {{ says }}
  </p>
</template>

<style scoped>
.top {
  gap: 14px;
  min-height: 36px;
  margin-bottom: 4px;
}
.inputs {
  margin-bottom: 8px;
}
.body {
  flex: 1;
  display: flex;
  gap: 10px;
  min-height: 0;
}
aside {
  width: 250px;
  padding-right: 2px;
}
.wrong {
  color: var(--alarm);
}
.why {
  margin: 8px 0 0;
  font-size: 14px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
