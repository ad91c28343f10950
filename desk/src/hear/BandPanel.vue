<script setup lang="ts">
// One band at a time: its name, place, gain and times, and the detectors that show their hits in its lane.
import { computed, onMounted, ref } from 'vue'
import { api, type Band, type HitSetting } from '../api/api'
import { layout } from '../live/live'
import ActMenu from '../controls/ActMenu.vue'
import TabRow from '../controls/TabRow.vue'
import Field from '../controls/Field.vue'
import SettingControls from '../controls/SettingControls.vue'
import { useShow } from '../live/show'
import { signalColour } from '../tokens'

const chosen = defineModel<string>({ required: true })
defineProps<{ finding: boolean }>()
const emit = defineEmits<{ find: [] }>()
const show = useShow()
const bands = computed(() => (show.document?.bands ?? []).filter((band) => band.input === show.input?.id))
const band = computed(() => bands.value.find((band) => band.id === chosen.value) ?? bands.value[0])
const hits = computed(() => (show.document?.hits ?? []).filter((hit) => hit.band === band.value?.id))
const own = computed(() => layout.value?.hits.some((hit) => hit.listens === band.value?.id) ?? false)
const colour = (id: string): string => signalColour(show.signals.get(`band-${id}`))
const bandParameters = computed(() =>
  (show.kind('listening', 'band')?.parameters ?? []).filter((parameter) => parameter.unit !== 'Hz'),
)
const hitParameters = (hit: HitSetting) => show.parametersOf(show.kind('listening', 'hit-setting'), hit)
const presets = ref<string[]>([])
onMounted(async () => {
  presets.value = await api.bandPresets().catch(() => [])
})

const title = (id: string): string => show.signals.get(`hit-${id}`)?.name ?? id
async function add(low: number, high: number, name = ''): Promise<void> {
  try {
    chosen.value = (await api.addBand(show.input!.id, low, high, name)).id
  } catch (error) {
    show.complain(error)
  }
}
async function remove(gone: Band): Promise<void> {
  try {
    await api.removeBand(gone.id)
    chosen.value = ''
  } catch (error) {
    show.complain(error)
  }
}
function takeSet(name: string): void {
  api.takeBandPreset(show.input!.id, name).catch(show.complain)
}
function rename(text: string): void {
  if (text) show.set(`/bands/${band.value!.id}/name`, text, 'Band name')
}
const octaves = (band: Band): string => Math.log2((band.high_hz ?? 1) / (band.low_hz ?? 1)).toFixed(1)
const tabs = computed(() =>
  bands.value.map((band) => ({
    value: band.id,
    label: band.name,
    colour: colour(band.id),
    path: `/bands/${band.id}`,
  })),
)
const limits = (name: string) =>
  show.kind('listening', 'band')?.parameters.find((parameter) => parameter.name === name)
function move(moved: Band, name: 'low_hz' | 'high_hz', text: string): void {
  const hz = Number(text)
  if (Number.isFinite(hz))
    show.set(`/bands/${moved.id}/${name}`, hz, `${moved.name} ${limits(name)?.title.toLowerCase()}`)
}
defineExpose({ add })
</script>

<template>
  <div class="card">
    <TabRow
      v-if="bands.length"
      loose
      :value="band?.id ?? ''"
      :tabs="tabs"
      label="Band"
      @choose="(id) => (chosen = id)"
    />
    <div class="pair">
      <button class="button" aria-label="New band" @click="add(300, 1200)">
        <i class="pi pi-plus" />Band
      </button>
      <button class="button" :class="{ on: finding }" @click="emit('find')">
        <i class="pi pi-search" />Find it
      </button>
    </div>
    <ActMenu
      title="Sets of bands…"
      :options="presets.map((preset) => ({ value: preset, label: preset }))"
      @choose="takeSet"
    />
    <template v-if="band">
      <Field :key="band.id + 'n'" :value="band.name" label="Name" wide @change="rename" />
      <div class="row edges">
        <Field
          :key="band.id + 'l'"
          :value="String(band.low_hz)"
          label="Hz"
          @change="(text) => move(band!, 'low_hz', text)"
        /><Field
          :key="band.id + 'h'"
          :value="String(band.high_hz)"
          label="to"
          @change="(text) => move(band!, 'high_hz', text)"
        />
      </div>
      <span class="soft small"
        ><span class="num">{{ octaves(band) }}</span> octaves wide</span
      >
      <SettingControls
        :key="band.id"
        :owner="`band@${band.id}`"
        :path="`/bands/${band.id}`"
        :values="band"
        :parameters="bandParameters"
        :name="band.name"
      />
      <template v-for="hit in hits" :key="hit.id">
        <strong class="about" :style="{ color: colour(band.id) }">▼ {{ title(hit.id) }}</strong>
        <SettingControls
          :owner="`hit@${hit.id}`"
          :path="`/hits/${hit.id}`"
          :values="hit"
          :parameters="hitParameters(hit)"
          :name="title(hit.id)"
        />
      </template>
      <button class="button" :class="{ on: own }" @click="api.catchHits(band.id, !own).catch(show.complain)">
        {{ own ? 'Its own hits are caught' : 'Catch hits of this band' }}
      </button>
      <button class="button" @click="remove(band)"><i class="pi pi-trash" />Remove {{ band.name }}</button>
    </template>
  </div>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.pair {
  display: flex;
  gap: 6px;
}
.pair .button {
  flex: 1;
  justify-content: center;
  padding: 0 6px;
}
.about {
  margin-top: 6px;
}
.small {
  font-size: 13px;
}
.edges {
  gap: 8px;
}
.edges :deep(input) {
  width: 72px;
}
</style>
