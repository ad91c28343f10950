<script setup lang="ts">
// One layer: its parts in the order in which light goes through them, its blend, and its place among the
// others.
import { computed } from 'vue'
import { api, type Show } from '../api/api'
import KindChooser from '../controls/KindChooser.vue'
import NameField from '../controls/NameField.vue'
import { useShow } from '../live/show'
import SmallPicture from './SmallPicture.vue'
import { useAdding } from './useAdding'

type Layer = NonNullable<NonNullable<Show['looks']>[number]['layers']>[number]
const props = defineProps<{
  layer: Layer
  look: string
  base: string
  position: number
  count: number
  chosen: string
}>()
const emit = defineEmits<{ choose: [part: string] }>()
const show = useShow()
const { addEffect } = useAdding()
const path = computed(() => `${props.base}/${props.layer.id}`)
const parts = computed(() => [props.layer.source, ...(props.layer.effects ?? []), props.layer.mix])
const mix = computed(() => props.layer.mix.values as { blend: string; opacity: number })
const mine = computed(() => parts.value.some((part) => part.id === props.chosen))
const modulators = computed(() => {
  const found = new Map<string, string>()
  for (const route of show.document?.routes ?? [])
    for (const target of route.targets) found.set(target.split('.')[0]!, show.colour(route.signal))
  return found
})
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
function shift(by: number): void {
  const index = props.position + by
  if (index >= 0 && index < props.count) show.edit({ edit: 'move', path: path.value, index }, 'Move layer')
}

let held = false
function drag(event: PointerEvent): void {
  const row = (event.currentTarget as HTMLElement).closest<HTMLElement>('.layer')!
  if (event.type === 'pointerdown') {
    held = true
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  }
  if (event.type !== 'pointerup' || !held) return
  held = false
  const rows = [...row.parentElement!.querySelectorAll<HTMLElement>('.layer')]
  const over = rows.findIndex((row) => event.clientY < row.getBoundingClientRect().bottom)
  const to = props.count - 1 - (over < 0 ? rows.length - 1 : over)
  if (to !== props.position) show.edit({ edit: 'move', path: path.value, index: to }, 'Move layer')
}
</script>

<template>
  <article
    class="layer row"
    :class="{ mine, dark: !layer.visible, within: layer.inside }"
    :data-layer="layer.id"
    :data-path="path"
    @keydown.alt.up.prevent="shift(1)"
    @keydown.alt.down.prevent="shift(-1)"
  >
    <button
      v-tooltip.top="'Drag up or down'"
      class="tiny grip"
      aria-label="Drag to reorder; arrows move it"
      @pointerdown="drag"
      @pointerup="drag"
      @keydown.up.prevent="shift(1)"
      @keydown.down.prevent="shift(-1)"
    >
      <i class="pi pi-bars" />
    </button>
    <button
      class="tiny"
      :aria-pressed="layer.visible"
      :aria-label="`${layer.visible ? 'Hide' : 'Show'} ${layer.name}`"
      @click="show.set(`${path}/visible`, !layer.visible, layer.visible ? 'Hide layer' : 'Show layer')"
    >
      <i class="pi" :class="layer.visible ? 'pi-eye' : 'pi-eye-slash'" />
    </button>
    <button
      class="tiny"
      :class="{ on: layer.solo }"
      :aria-pressed="layer.solo"
      :aria-label="`Solo ${layer.name}`"
      @click="show.set(`${path}/solo`, !layer.solo, 'Solo layer')"
    >
      S
    </button>
    <SmallPicture
      class="pic"
      :look="look"
      :layer="layer.id"
      :content="[layer.source, layer.effects, layer.mix]"
    />
    <NameField
      class="name"
      :value="layer.name"
      :label="`Name of ${layer.name}`"
      @change="(name) => show.set(`${path}/name`, name, 'Rename layer')"
    />
    <div class="way">
      <button
        v-for="part in parts"
        :key="part.id"
        class="button part step"
        :class="{ chosen: part.id === chosen, off: !part.on }"
        :data-path="part.family === 'effect' ? `${path}/effects/${part.id}` : undefined"
        @click="emit('choose', part.id)"
      >
        {{ part === layer.mix ? `${mix.blend} ${Math.round(mix.opacity * 100)} %` : show.kindOf(part)?.title
        }}<i
          v-if="modulators.has(part.id)"
          class="dot"
          :style="{ background: modulators.get(part.id) }"
          title="Something moves it"
        />
      </button>
      <KindChooser
        family="effect"
        title="+"
        :label="`Add an effect to ${layer.name}`"
        @choose="(kind) => addEffect(kind, `${path}/effects`)"
      />
    </div>
    <button class="tiny" :aria-label="`Remove ${layer.name}`" @click="doing(api.removePart(path))">
      <i class="pi pi-trash" />
    </button>
  </article>
</template>

<style scoped>
.layer {
  gap: 2px;
  background: var(--raised);
  border: 1px solid var(--edge);
  border-radius: 8px;
  padding: 3px 6px;
  min-height: 42px;
}
.layer.mine {
  border-color: var(--hand);
}
.layer.dark .way,
.layer.dark .name {
  opacity: 0.5;
}
.within {
  margin-left: 22px;
}
.pic {
  width: 58px;
  margin: 0 4px;
}
.tiny {
  background: none;
  border: 0;
  color: var(--soft);
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
  padding: 0;
  font-weight: 700;
}
.tiny.on {
  color: var(--bolt);
}
.grip {
  cursor: grab;
  touch-action: none;
}
.name {
  width: 96px;
}
.way {
  flex: 1;
  display: flex;
  gap: 4px;
  flex-wrap: wrap;
  min-width: 0;
}
.part {
  min-height: 32px;
  padding: 0 9px;
  font-size: 14px;
}
.part.chosen {
  border-color: var(--hand);
  color: var(--hand);
}
.part.off {
  text-decoration: line-through;
  color: var(--soft);
}
.dot {
  width: 8px;
  height: 8px;
  border-radius: 50%;
}
</style>
