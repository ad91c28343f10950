<script setup lang="ts">
// Signals that are made, not heard: each with its live trace and every setting; carry its name onto a
// parameter.
import { computed } from 'vue'
import { api, type Modulator, type Reason } from '../api/api'
import { pick } from '../controls/carry'
import LearnFader from '../controls/LearnFader.vue'
import { learn } from '../controls/learns'
import NameField from '../controls/NameField.vue'
import PartControls from '../controls/PartControls.vue'
import ReasonRow from '../controls/ReasonRow.vue'
import { useShow } from '../live/show'
import { state } from '../live/live'
import { surface } from '../live/surface'
import Trace from '../controls/Trace.vue'
import { Block } from '../live/wire'

const emit = defineEmits<{ routes: [signal: string] }>()
const show = useShow()
const modulators = computed(() => show.document?.modulators ?? [])
const kinds = computed(() => show.kinds.filter((kind) => kind.family === 'modulator'))
const id = (modulator: Modulator): string => `modulator-${modulator.id}`
const uses = (modulator: Modulator): number =>
  (show.document?.routes ?? []).filter((route) => route.signal === id(modulator)).length
const reason = (modulator: Modulator): Reason | undefined => state.value.why_modulators?.[modulator.id]
/** What is drawn or written needs the whole width; numbers stand side by side. */
const WIDE = ['points', 'steps', 'words']
const columns = (modulator: Modulator): number =>
  show.kindOf(modulator.part)?.parameters.some(({ type }) => WIDE.includes(type)) ? 1 : 3
const add = (kind: string): void => {
  api.addModulator(kind).catch(show.complain)
}
</script>

<template>
  <div class="list scroll">
    <div class="row wrap">
      <button
        v-for="kind in kinds"
        :key="kind.kind"
        v-tooltip.bottom="kind.help"
        class="button"
        @click="add(kind.kind)"
      >
        <i class="pi pi-plus" />{{ kind.title }}
      </button>
    </div>
    <p v-if="!modulators.length" class="card soft">
      Nothing is made yet. An LFO swings by itself, an envelope follows a line you draw, a pattern steps on
      the beat, a fader waits for your hand, an expression joins signals: each can move anything.
    </p>
    <article
      v-for="modulator in modulators"
      :key="modulator.id"
      class="card modulator"
      :data-modulator="modulator.id"
    >
      <div class="left">
        <NameField
          class="name"
          :value="modulator.name"
          :label="`Name of ${modulator.name}`"
          :style="{ color: show.colour(id(modulator)) }"
          @change="(name) => show.set(`/modulators/${modulator.id}/name`, name, 'Rename modulator')"
        />
        <div class="trace">
          <Trace
            v-if="show.signals.get(id(modulator))"
            :key="show.signals.get(id(modulator))!.index"
            :block="Block.signals"
            :index="show.signals.get(id(modulator))!.index"
            :low="0"
            :high="1"
            :colour="show.colour(id(modulator))"
            label="What it gives"
          />
        </div>
        <ReasonRow v-if="reason(modulator)" :reason="reason(modulator)!" />
        <div class="row">
          <button
            v-tooltip.bottom="'Carry it onto a parameter in a spine, or open Picture and use a socket'"
            class="button grip"
            :style="{ color: show.colour(id(modulator)) }"
            @pointerdown="pick($event, id(modulator))"
            @click="emit('routes', id(modulator))"
          >
            <i class="pi pi-arrows-alt" />{{
              uses(modulator)
                ? uses(modulator) === 1
                  ? 'moves one thing'
                  : `moves ${uses(modulator)} things`
                : 'moves nothing yet'
            }}
          </button>
          <LearnFader
            v-if="modulator.part.kind === 'fader'"
            :target="`/modulators/${modulator.id}/part/values/level`"
            :title="modulator.name"
          />
          <button
            v-if="modulator.part.kind === 'played-signal'"
            class="button"
            @click="learn({ does: 'hit', target: modulator.id, action: null })"
          >
            {{ surface.learning?.target === modulator.id ? 'Now strike it…' : 'On a note, a key, a message' }}
          </button>
          <span class="grow" /><button
            class="button plain"
            aria-label="Remove modulator"
            @click="show.edit({ edit: 'remove', path: `/modulators/${modulator.id}` }, 'Remove modulator')"
          >
            <i class="pi pi-trash" />
          </button>
        </div>
      </div>
      <div class="right">
        <small class="soft">{{ show.kindOf(modulator.part)?.title }}</small><PartControls
          :part="modulator.part"
          :path="`/modulators/${modulator.id}/part`"
          :columns="columns(modulator)"
        />
      </div>
    </article>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-right: 4px;
}
.list > * {
  flex: none;
}
.wrap {
  flex-wrap: wrap;
}
.modulator {
  display: flex;
  gap: 18px;
}
.left {
  width: 250px;
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.right {
  flex: 1;
  min-width: 0;
}
.trace {
  height: 74px;
}
.grip {
  cursor: grab;
  touch-action: none;
}
.name {
  border-bottom: 1px solid var(--edge);
  font-size: 16px;
  width: 100%;
}
</style>
