<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '../shared/api'
import { hertz } from '../shared/format'
import { layout, state } from '../shared/live'
import { useShow } from '../shared/show'
import { signalColour } from '../shared/tokens'
import BandPanel from './BandPanel.vue'
import BeatPanel from './BeatPanel.vue'
import InputPanel from './InputPanel.vue'
import LevelPanel from './LevelPanel.vue'
import MorePanel from './MorePanel.vue'
import Score from './Score.vue'

const show = useShow()
const why = ref('')
const chosen = ref('low')
const finding = ref(false)
const panel = ref<InstanceType<typeof BandPanel>>()
const PANELS = ['Input', 'Level', 'Bands', 'Beat', 'More'] as const
const open = ref<(typeof PANELS)[number]>('Input')
const bands = computed(() => show.document?.bands?.filter((one) => one.input === show.input?.id) ?? [])
const band = computed(() => bands.value.find((one) => one.id === chosen.value) ?? bands.value[0])
// A detector that looks set wrongly is spoken of while nothing else is.
const wrong = computed(() => {
  const found = Object.entries(state.value.inputs?.[show.input?.id ?? '']?.hits ?? {}).find(
    ([, one]) => one.warning,
  )
  return found ? `${show.signals.get(`hit-${found[0]}`)?.name}: ${found[1].warning}` : ''
})
const colour = (id: string): string => signalColour(show.signals.get(`band-${id}`))

async function find(t: number, hz: number): Promise<void> {
  finding.value = false
  try {
    const found = await api.findBand(show.input!.id, t, hz)
    panel.value?.add(found.low_hz, found.high_hz, `At ${hertz(hz)}`)
    why.value = `It stands out by ${found.contrast_db.toFixed(0)} dB between ${hertz(found.low_hz)} and ${hertz(found.high_hz)}.`
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
    <div class="row panels" role="tablist" aria-label="What to set">
      <button
        v-for="name in PANELS"
        :key="name"
        class="button"
        role="tab"
        :aria-selected="open === name"
        :class="{ on: open === name }"
        @click="open = name"
      >
        {{ name }}
      </button>
    </div>
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
      <div
        v-if="(show.document?.inputs?.length ?? 0) > 1"
        class="row inputs"
        role="tablist"
        aria-label="Which input"
      >
        <button
          v-for="one in show.document!.inputs"
          :key="one.id"
          class="button"
          role="tab"
          :aria-selected="one.id === show.input?.id"
          :class="{ on: one.id === show.input?.id }"
          @click="show.chosenInput = one.id"
        >
          <i
            v-if="state.inputs?.[one.id]?.trouble"
            class="pi pi-exclamation-triangle"
            aria-label="no sound"
          />{{ one.name }}
        </button>
      </div>
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
    {{
      finding
        ? 'Click the drum or the voice in the score: the band that separates it best is proposed.'
        : why ||
          wrong ||
          'Drag a rail to move its band, pull its ends to widen it. Solid marks are counted hits; point at a hollow one to read why it was not.'
    }}
  </p>
</template>

<style scoped>
.top {
  gap: 14px;
  min-height: 36px;
  margin-bottom: 4px;
}
.inputs {
  flex-wrap: wrap;
  gap: 5px;
  margin-bottom: 8px;
}
.inputs .button {
  flex: 1 0 auto;
  justify-content: center;
  padding: 0 8px;
}
.panels {
  gap: 6px;
}
.panels .button {
  padding: 0 10px;
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
