<script setup lang="ts">
// Pages of pads, tempo, learning and changing; and first of all what a performer must know now.
import { computed } from 'vue'
import { api } from '../api/api'
import { learnMode, learns, setLearnMode } from '../controls/learns'
import { act, giveBack, state } from '../live/live'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import TempoBox from './TempoBox.vue'

defineProps<{ editing: boolean }>()
const emit = defineEmits<{ edit: []; sheet: [] }>()
const show = useShow()
const pages = computed(() => show.document?.pages ?? [])
const turn = (page: string): void =>
  act({
    event: 'action-done',
    action: {
      id: 'desk',
      family: 'action',
      kind: 'turn-page',
      on: true,
      values: { which: 'a certain one', page },
    },
    strength: 1,
    ended: false,
  })
const add = (): void => {
  api.pages
    .add()
    .then(({ id }) => turn(id))
    .catch(show.complain)
}
const held = computed(() => state.value.overridden?.length ?? 0)
const muted = computed(() => (show.document?.routes ?? []).filter((route) => route.muted).length)
const notices = computed(() =>
  [
    ...surface.value.said,
    surface.value.tempo.says,
    state.value.beat?.fits === false && surface.value.tempo.rules === 'sound' ? 'The beat is unsure' : '',
    muted.value ? `${muted.value} ${muted.value === 1 ? 'route rests' : 'routes rest'}` : '',
    state.value.lights && (state.value.lights as { held_back?: string[] }).held_back?.length
      ? 'Flashes of lamps are held back'
      : '',
    state.value.ports?.fault?.text ?? '',
  ].filter(Boolean),
)
const asked = computed(() => surface.value.learning)
const LEARN = {
  pad: 'Now press a pad, a key or a note…',
  fader: 'Now move a fader…',
  value: 'Now move a fader…',
  action: 'Now press something…',
  hit: 'Now strike something…',
} as const
const learnSays = computed(() => {
  if (asked.value) return LEARN[asked.value.does as keyof typeof LEARN] ?? 'Now move it…'
  return 'Learning: touch a pad, a fader or a button here, then move the control. Press Learn again when done.'
})
</script>

<template>
  <section class="bar" aria-label="Surface">
    <div class="row pages" data-learns-not>
      <button
        v-for="page in pages"
        :key="page.id"
        class="button page"
        :class="{ on: page.id === surface.page }"
        :aria-pressed="page.id === surface.page"
        @click="turn(page.id!)"
      >
        {{ page.name }}
      </button>
      <button v-if="editing || !pages.length" class="button" aria-label="Add a page" @click="add">
        <i class="pi pi-plus" />Page
      </button>
    </div>
    <TempoBox />
    <span class="grow" />
    <div class="row tools" data-learns-not>
      <button
        class="button"
        :class="{ on: learnMode }"
        :aria-pressed="learnMode"
        @click="setLearnMode(!learnMode)"
      >
        Learn
      </button>
      <button class="button" :class="{ on: editing }" :aria-pressed="editing" @click="emit('edit')">
        Change
      </button>
      <button class="button" @click="emit('sheet')">Controllers</button>
    </div>
  </section>
  <div class="notices" role="status">
    <span v-if="learnMode" class="notice learn">{{ learnSays }}</span>
    <button
      v-if="held"
      class="notice held"
      v-bind="learns({ does: 'action', target: '', action: null })"
      @click="giveBack('')"
    >
      {{ held }} held · give back
    </button>
    <span v-for="notice in notices" :key="notice" class="notice">{{ notice }}</span>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
}
.pages {
  gap: 4px;
  overflow-x: auto;
  flex: 0 1 auto;
  min-width: 110px;
  scrollbar-width: none;
}
.button {
  min-height: 44px;
}
.tools {
  gap: 4px;
}
.notices {
  display: flex;
  gap: 8px;
  min-height: 0;
  overflow: hidden;
  white-space: nowrap;
}
.notice {
  font-size: 16px;
  font-weight: 600;
  color: var(--bolt);
  border: 1px solid color-mix(in srgb, var(--bolt) 50%, transparent);
  border-radius: 7px;
  padding: 2px 10px;
  background: none;
}
.held {
  min-height: 40px;
  cursor: pointer;
}
.learn {
  background: var(--bolt);
  color: var(--ground);
}
</style>
