<script setup lang="ts">
// What a route hears, tuned where it acts: a band's edges on the living spectrum, its gain and fall; a hit's
// threshold and dead time under its lane.
import { computed } from 'vue'
import type { Route } from '../api/api'
import SettingControls from '../controls/SettingControls.vue'
import Trace from '../controls/Trace.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import { Block } from '../live/wire'
import BandEdges from './BandEdges.vue'

const props = defineProps<{ route: Route; colour: string }>()
const show = useShow()
const signal = computed(() => show.signals.get(props.route.signal))
const id = computed(() => props.route.signal.replace(/^(band|peak|hit)-/, ''))
const band = computed(() =>
  /^(band|peak)-/.test(props.route.signal)
    ? show.document?.bands?.find((each) => each.id === id.value)
    : undefined,
)
const hit = computed(() =>
  props.route.signal.startsWith('hit-')
    ? show.document?.hits?.find((each) => each.id === id.value)
    : undefined,
)
/** A detector of a band's own listens where the band does. */
const under = computed(
  () =>
    band.value ??
    (hit.value && !hit.value.drum ? show.document?.bands?.find((b) => b.id === hit.value!.band) : undefined),
)
const bandParameters = computed(() =>
  (show.kind('listening', 'band')?.parameters ?? []).filter(
    (parameter) => parameter.type === 'number' && parameter.unit !== 'Hz',
  ),
)
const hitParameters = computed(() =>
  hit.value ? show.parametersOf(show.kind('listening', 'hit-setting'), hit.value) : [],
)
const whole = computed(() => ['level', 'peak'].includes(props.route.signal.split('@')[0]!))
const input = computed(() => show.document?.inputs?.find((each) => each.id === signal.value?.input))
const gain = computed(() => show.kind('input', 'input')?.parameters ?? [])
const aBar = computed(() => state.value.inputs?.[signal.value?.input ?? '']?.hits?.[id.value]?.a_bar)
</script>

<template>
  <section v-if="under || hit || whole" class="listening" aria-label="What it listens to">
    <div class="see">
      <BandEdges v-if="under" :key="under.id" :band="under" :colour="colour" />
      <div v-if="hit && signal" class="lane">
        <Trace
          :key="signal.index"
          :block="Block.signals"
          :index="signal.index"
          :low="0"
          :high="1"
          :colour="colour"
          label="Its hits"
        />
        <small class="soft"
          ><b class="num">{{ aBar ?? '–' }}</b> a bar</small
        >
      </div>
    </div>
    <div class="tune">
      <SettingControls
        v-if="under"
        :owner="`band@${under.id}`"
        :path="`/bands/${under.id}`"
        :values="under"
        :parameters="bandParameters"
        :name="under.name"
      />
      <SettingControls
        v-if="hit"
        :owner="`hit@${hit.id}`"
        :path="`/hits/${hit.id}`"
        :values="hit"
        :parameters="hitParameters"
        :name="signal?.name ?? hit.id"
      />
      <SettingControls
        v-if="whole && input"
        :owner="`input@${input.id}`"
        :path="`/inputs/${input.id}`"
        :values="input"
        :parameters="gain"
        name=""
      />
    </div>
  </section>
</template>

<style scoped>
.listening {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  padding: 7px 9px;
  margin-bottom: 8px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: 8px;
}
.see {
  flex: 1 1 240px;
  min-width: 200px;
}
.lane {
  display: grid;
  grid-template-rows: 58px auto;
}
.tune {
  flex: 2 1 320px;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 2px 16px;
  align-content: start;
}
</style>
