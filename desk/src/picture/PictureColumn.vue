<script setup lang="ts">
// The picture, its layers from front to back, and the chosen part with both values of every parameter.
import { computed, ref } from 'vue'
import { api, type Part } from '../shared/api'
import { layout } from '../shared/live'
import NameField from '../shared/NameField.vue'
import PartControls from '../shared/PartControls.vue'
import PresetList from '../shared/PresetList.vue'
import { useShow } from '../shared/show'
import LayerRow from './LayerRow.vue'
import LookStrip from './LookStrip.vue'
import PictureView from './PictureView.vue'

const show = useShow()
const size = ref('')
const rate = ref(0)
const chosen = ref('')
const base = computed(() => `/looks/${show.look?.id}`)
const layers = computed(() => [...(show.look?.layers ?? [])].reverse())
const kindsOf = (family: string) => show.kinds.filter((kind) => kind.family === family)

interface Step {
  part: Part
  path: string
  title: string
  family: string
}
const parts = computed<Step[]>(() => {
  const found: Step[] = []
  const push = (part: Part, path: string): void => {
    found.push({
      part,
      path,
      title: show.kind(part.kind)?.title ?? part.kind,
      family: show.kind(part.kind)?.family ?? '',
    })
  }
  for (const layer of layers.value) {
    const path = `${base.value}/layers/${layer.id}`
    push(layer.source, `${path}/source`)
    layer.effects?.forEach((part) => push(part, `${path}/effects/${part.id}`))
    push(layer.mix, `${path}/mix`)
  }
  show.look?.finish?.forEach((part) => push(part, `${base.value}/finish/${part.id}`))
  return found
})
// At first a part that has something to turn: a group or the picture so far has nothing.
const step = computed(
  () =>
    parts.value.find((one) => one.part.id === chosen.value) ??
    parts.value.find((one) => show.kind(one.part.kind)?.parameters.length) ??
    parts.value[0],
)
const layer = computed(() => layers.value.find((one) => step.value?.path.includes(`/layers/${one.id}/`)))
const groups = computed(() =>
  layers.value.filter((one) => one.source.kind === 'group' && one.id !== layer.value?.id),
)
const keeps = ref<'' | 'part' | 'layer' | 'look'>('')
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}

function addLayer(event: Event): void {
  const box = event.target as HTMLSelectElement
  const kind = box.value
  box.value = ''
  api
    .addLayer(show.look!.id, kind)
    .then(({ id }) =>
      setTimeout(() => {
        chosen.value = show.look?.layers?.find((one) => one.id === id)?.source.id ?? ''
      }, 150),
    )
    .catch(show.complain)
}
function addFinish(event: Event): void {
  const box = event.target as HTMLSelectElement
  doing(api.addEffect(`${base.value}/finish`, box.value))
  box.value = ''
}
const removable = computed(() => step.value?.family === 'effect')
</script>

<template>
  <div class="top row">
    <h2>Picture</h2>
    <template v-if="show.look">
      <NameField
        :key="show.look.id"
        class="look"
        :value="show.look.name"
        label="Name of the shown look"
        @change="(name) => show.set(`${base}/name`, name, 'Rename look')"
      />
      <button
        v-tooltip.bottom="'Takes this look away, with its cues and routes'"
        class="tiny"
        :disabled="show.document!.looks!.length < 2"
        :aria-label="`Remove the look ${show.look.name}`"
        @click="doing(api.removeLook(show.look!.id))"
      >
        <i class="pi pi-trash" />
      </button>
    </template>
    <span class="grow" />
    <span class="soft"
      >inner size <span class="num">{{ size }}</span> · <span class="num">{{ rate.toFixed(0) }}</span> drawn/s
      · {{ layout?.slots.length }} parameters</span
    >
  </div>
  <LookStrip />
  <div class="body">
    <div class="left">
      <PictureView @size="(text) => (size = text)" @drawn="(per) => (rate = per)" />
      <div class="layers scroll" aria-label="Layers, the front one first">
        <LayerRow
          v-for="(one, i) in layers"
          :key="one.id"
          :layer="one"
          :look="show.look!.id"
          :base="`${base}/layers`"
          :place="layers.length - 1 - i"
          :count="layers.length"
          :chosen="step?.part.id ?? ''"
          @choose="(id) => (chosen = id)"
        />
        <div class="row finish" data-layer="finish">
          <strong>Finish</strong>
          <button
            v-for="part in show.look?.finish"
            :key="part.id"
            class="button part"
            :class="{ chosen: part.id === step?.part.id, off: !part.on }"
            @click="chosen = part.id"
          >
            {{ show.kind(part.kind)?.title }}
          </button>
          <select class="button add" aria-label="Add a finishing effect" @change="addFinish">
            <option value="">+ effect</option>
            <option v-for="kind in kindsOf('effect')" :key="kind.kind" :value="kind.kind">
              {{ kind.title }}
            </option>
          </select>
          <span class="grow" />
          <select class="button add" aria-label="Add a layer" :disabled="!show.look" @change="addLayer">
            <option value="">+ layer</option>
            <option v-for="kind in kindsOf('source')" :key="kind.kind" :value="kind.kind">
              {{ kind.title }}
            </option>
          </select>
        </div>
        <p v-if="!layers.length" class="soft">This look is dark: add a layer.</p>
      </div>
    </div>
    <aside class="scroll">
      <template v-if="step">
        <div class="row about">
          <h2>{{ step.title }}</h2>
          <span v-if="layer" class="soft">of {{ layer.name }}</span>
          <select
            v-if="layer && groups.length"
            v-tooltip.bottom="'The group that this layer belongs to'"
            class="button inside"
            :value="layer.inside"
            aria-label="Group"
            @change="
              show.set(
                `${base}/layers/${layer.id}/inside`,
                ($event.target as HTMLSelectElement).value,
                'Group',
              )
            "
          >
            <option value="">in no group</option>
            <option v-for="one in groups" :key="one.id" :value="one.id">in {{ one.name }}</option>
          </select>
          <span class="grow" />
          <template v-if="removable">
            <button
              class="button"
              :class="{ on: step.part.on }"
              @click="
                show.set(`${step.path}/on`, !step.part.on, `${step.title} ${step.part.on ? 'off' : 'on'}`)
              "
            >
              {{ step.part.on ? 'On' : 'Off' }}
            </button>
            <button
              class="button plain"
              :aria-label="`Remove ${step.title}`"
              @click="doing(api.removePart(step.path))"
            >
              <i class="pi pi-trash" />
            </button>
          </template>
        </div>
        <p class="soft">{{ show.kind(step.part.kind)?.help }}</p>
        <PartControls :key="step.part.id" :part="step.part" :path="step.path" :columns="1" />
        <div class="row keeps">
          <span class="soft">Presets of</span>
          <button
            class="button"
            :class="{ on: keeps === 'part' }"
            @click="keeps = keeps === 'part' ? '' : 'part'"
          >
            {{ step.title }}
          </button>
          <button
            v-if="layer"
            class="button"
            :class="{ on: keeps === 'layer' }"
            @click="keeps = keeps === 'layer' ? '' : 'layer'"
          >
            Layer
          </button>
          <button
            class="button"
            :class="{ on: keeps === 'look' }"
            @click="keeps = keeps === 'look' ? '' : 'look'"
          >
            Look
          </button>
        </div>
        <PresetList
          v-if="keeps"
          :key="keeps"
          :scope="keeps"
          :place="keeps === 'part' ? step.part.id : keeps === 'layer' ? (layer?.id ?? '') : show.look!.id"
        />
      </template>
      <p v-else class="soft">This show has no look yet.</p>
    </aside>
  </div>
</template>

<style scoped>
.top {
  min-height: 30px;
  gap: 8px;
}
.look {
  width: 190px;
  border-bottom: 1px dashed var(--edge-strong);
}
.tiny {
  background: none;
  border: 0;
  color: var(--soft);
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
}
.body {
  flex: 1;
  display: flex;
  gap: 14px;
  min-height: 0;
}
.left {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.layers {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.layers > * {
  flex: none;
}
.finish {
  padding: 4px 8px;
  gap: 6px;
  flex-wrap: wrap;
  border-top: 1px solid var(--edge);
}
.part {
  min-height: 32px;
  padding: 0 9px;
}
.part.chosen {
  border-color: var(--hand);
  color: var(--hand);
}
.part.off {
  text-decoration: line-through;
  color: var(--soft);
}
.add {
  min-height: 32px;
  max-width: 112px;
}
aside {
  width: 306px;
  padding-right: 6px;
}
aside p {
  margin: 2px 0 8px;
  font-size: 14px;
}
.about {
  min-height: 34px;
  gap: 8px;
  flex-wrap: wrap;
}
.inside {
  min-height: 32px;
  padding: 0 6px;
}
.keeps {
  gap: 6px;
  margin: 8px 0;
}
.keeps .button {
  min-height: 32px;
  padding: 0 9px;
}
</style>
