<script setup lang="ts">
// What is kept for a place: recalled at once or with a glide, compared, updated; hand only is always the
// first.
import { ref, watch } from 'vue'
import { api, type KeptPreset, type Scope } from '../api/api'
import Choice from './Choice.vue'
import { useShow } from '../live/show'

const props = defineProps<{ scope: Scope; address: string }>()
const show = useShow()
const rows = ref<KeptPreset[]>([])
const name = ref('')
const GLIDES = [
  { value: 'now', label: 'at once', way: { glide_ms: 0 } },
  { value: 'half', label: 'in 0.5 s', way: { glide_ms: 500 } },
  { value: 'two', label: 'in 2 s', way: { glide_ms: 2000 } },
  { value: 'beat', label: 'in a beat', way: { glide_beats: 1 } },
  { value: 'beats', label: 'in 4 beats', way: { glide_beats: 4 } },
  { value: 'bars', label: 'in 16 beats', way: { glide_beats: 16 } },
]
const glide = ref('now')
async function load(): Promise<void> {
  try {
    rows.value = await api.presets(props.scope, props.address)
  } catch {
    rows.value = []
  }
}
let soon = 0
watch(
  () => [props.scope, props.address, show.document],
  () => {
    clearTimeout(soon)
    soon = window.setTimeout(load, rows.value.length ? 250 : 0)
  },
  { immediate: true },
)
const doing = (what: Promise<unknown>): Promise<void> => what.then(load).catch(show.complain)
function recall(row: KeptPreset): void {
  const { way } = GLIDES.find((choice) => choice.value === glide.value)!
  void doing(
    row.id === 'hand'
      ? api.handOnly(props.scope, props.address)
      : api.recallPreset(row.id, row.address === props.address ? way : { ...way, address: props.address }),
  )
}
/** Without a name it is named by what moves it. */
function keep(): void {
  void doing(
    api.keepPreset(props.scope, props.address, name.value.trim()).then(() => {
      name.value = ''
    }),
  )
}
</script>

<template>
  <section class="presets" aria-label="Presets">
    <div class="row head">
      <strong>Presets</strong><span class="grow" />
      <Choice
        :value="glide"
        :options="GLIDES"
        label="How fast a preset is recalled"
        @choose="(how) => (glide = how)"
      />
    </div>
    <div v-for="row in rows" :key="row.id" class="row one" :class="{ chosen: row.chosen }">
      <button class="button name" :disabled="!!row.fault" @click="recall(row)">
        {{ row.name
        }}<i
          v-if="row.changed"
          v-tooltip.top="'Changed since it was kept'"
          class="dot"
          aria-label="changed"
        />
      </button>
      <small v-if="row.address !== address" class="soft"
        >from
        {{
          scope === 'parameter'
            ? show.targetName(row.address)
            : (show.partNames.get(row.address) ?? row.address)
        }}</small
      >
      <span class="grow" />
      <template v-if="row.id !== 'hand' && row.address === address">
        <button
          v-tooltip.top="
            row.aside ? 'Back to what was there' : 'Try it; once more brings back what was there'
          "
          class="button small"
          :class="{ on: row.aside }"
          :aria-pressed="row.aside"
          @click="doing(api.comparePreset(row.id))"
        >
          {{ row.aside ? 'B' : 'A' }}/{{ row.aside ? 'A' : 'B' }}
        </button>
        <button
          v-if="row.changed || !row.chosen"
          v-tooltip.top="'Keep what stands there now under this name'"
          class="button small"
          @click="doing(api.updatePreset(row.id))"
        >
          Update
        </button>
        <button
          class="button small plain"
          aria-label="Remove preset"
          @click="doing(api.removePreset(row.id))"
        >
          <i class="pi pi-trash" />
        </button>
      </template>
    </div>
    <form class="row" @submit.prevent="keep">
      <input
        v-model="name"
        class="field"
        placeholder="Keep as…"
        aria-label="Name of a new preset"
        maxlength="80"
      /><button class="button">Keep</button>
    </form>
  </section>
</template>

<style scoped>
.presets {
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.one {
  gap: 5px;
}
.name {
  min-width: 96px;
}
.chosen .name {
  border-color: var(--hand);
  color: var(--hand);
}
.small {
  min-height: 32px;
  padding: 0 8px;
  font-size: 13px;
}
.dot {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--bolt);
}
.field {
  flex: 1;
  min-width: 0;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  padding: 0 8px;
}
</style>
