<script setup lang="ts">
// The picture, its layers from front to back, and the chosen part with both values of every parameter.
import { ref, watch } from 'vue'
import { api } from '../api/api'
import KindChooser from '../controls/KindChooser.vue'
import NameField from '../controls/NameField.vue'
import { layout } from '../live/live'
import { useShow, type Making } from '../live/show'
import LayerRow from './LayerRow.vue'
import LookStrip from './LookStrip.vue'
import PaletteInUse from './PaletteInUse.vue'
import PartPanel from './PartPanel.vue'
import PictureView from './PictureView.vue'
import { useAdding } from './useAdding'
import { useParts } from './useParts'

const show = useShow()
const size = ref('')
const rate = ref(0)
const { chosen, base, layers, step, layer } = useParts()
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
const { adding, addLayer, addEffect } = useAdding()

// A new look's name has the focus from the press on: what is typed before the answer comes is kept for it.
const name = ref<InstanceType<typeof NameField>>()
watch(
  () => show.making,
  (making) => making && name.value?.focus(),
)
async function rename(text: string, at: unknown): Promise<void> {
  try {
    const path = typeof at === 'string' ? at : `/looks/${await (at as Making).id}`
    show.set(`${path}/name`, text, 'Rename look')
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <div class="top row">
    <h2>Picture</h2>
    <template v-if="show.look">
      <NameField
        ref="name"
        class="look"
        :value="show.making ? 'New look' : show.look.name"
        :at="show.making ?? base"
        label="Name of the shown look"
        @change="rename"
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
    <PaletteInUse />
    <span class="soft"
      >inner size <span class="num">{{ size }}</span> · <span class="num">{{ rate.toFixed(0) }}</span> drawn/s
      · {{ layout?.indices.length }} parameters</span
    >
  </div>
  <LookStrip />
  <div class="body">
    <div class="left">
      <PictureView @size="(text) => (size = text)" @drawn="(per) => (rate = per)" />
      <div class="layers scroll" aria-label="Layers, the front one first">
        <p v-for="what in adding" :key="what" class="soft coming" role="status">{{ what }} is on its way…</p>
        <LayerRow
          v-for="(row, i) in layers"
          :key="row.id"
          :layer="row"
          :look="show.look!.id"
          :base="`${base}/layers`"
          :position="layers.length - 1 - i"
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
            :data-path="`${base}/finish/${part.id}`"
            @click="chosen = part.id"
          >
            {{ show.kindOf(part)?.title }}
          </button>
          <KindChooser
            family="effect"
            title="+ effect"
            label="Add a finishing effect"
            @choose="(kind) => addEffect(kind)"
          />
          <span class="grow" />
          <KindChooser
            family="source"
            title="+ layer"
            label="Add a layer"
            :disabled="!show.look"
            @choose="addLayer"
          />
        </div>
        <p v-if="!layers.length" class="soft">This look is dark: add a layer.</p>
      </div>
    </div>
    <aside class="scroll">
      <PartPanel v-if="step" :step="step" :layer="layer" :base="base" :layers="layers" />
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
.coming {
  margin: 0;
  padding: 4px 8px;
  border: 1px dashed var(--edge-strong);
  border-radius: 8px;
}
.finish {
  position: sticky;
  bottom: 0;
  background: var(--panel);
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
aside {
  width: 306px;
  padding-right: 6px;
}
@container column (max-width: 720px) {
  .top .soft {
    display: none;
  }
  /* All of it scrolls under the picture, which stays in sight. */
  .body {
    display: block;
    overflow-y: auto;
    scroll-padding-top: calc(56.25cqw + 8px);
    scrollbar-width: thin;
  }
  .left {
    display: contents;
  }
  .left > :first-child {
    position: sticky;
    top: 0;
    z-index: 1;
  }
  .finish {
    position: static;
  }
  .layers {
    margin: 8px 0;
    overflow: visible;
  }
  aside {
    width: auto;
    overflow: visible;
    border-top: 1px solid var(--edge);
    padding-top: 8px;
  }
}
</style>
