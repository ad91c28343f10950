<script setup lang="ts">
// Signals that are made, not heard: each with its live trace and every setting; carry its name onto a
// parameter.
import { computed } from 'vue'
import { api, type Modulator, type Reason } from '../api/api'
import { pick } from '../controls/carry'
import LearnFader from '../controls/LearnFader.vue'
import NameField from '../controls/NameField.vue'
import PartControls from '../controls/PartControls.vue'
import ReasonRow from '../controls/ReasonRow.vue'
import { useShow } from '../live/show'
import { state } from '../live/live'
import Trace from '../controls/Trace.vue'
import { Block } from '../live/wire'

const emit = defineEmits<{ routes: [signal: string] }>()
const show = useShow()
const modulators = computed(() => show.document?.modulators ?? [])
const kinds = computed(() => show.kinds.filter((kind) => kind.family === 'modulator'))
const id = (one: Modulator): string => `modulator-${one.id}`
const uses = (one: Modulator): number =>
  (show.document?.routes ?? []).filter((route) => route.signal === id(one)).length
const reason = (one: Modulator): Reason | undefined => state.value.why_modulators?.[one.id]
/** What is drawn or written needs the whole width; numbers stand side by side. */
const WIDE = ['points', 'steps', 'words']
const columns = (one: Modulator): number =>
  show.kindOf(one.part)?.parameters.some(({ type }) => WIDE.includes(type)) ? 1 : 3
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
    <article v-for="one in modulators" :key="one.id" class="card modulator" :data-modulator="one.id">
      <div class="left">
        <NameField
          class="name"
          :value="one.name"
          :label="`Name of ${one.name}`"
          :style="{ color: show.colour(id(one)) }"
          @change="(name) => show.set(`/modulators/${one.id}/name`, name, 'Rename modulator')"
        />
        <div class="trace">
          <Trace
            v-if="show.signals.get(id(one))"
            :key="show.signals.get(id(one))!.index"
            :block="Block.signals"
            :index="show.signals.get(id(one))!.index"
            :low="0"
            :high="1"
            :colour="show.colour(id(one))"
            label="What it gives"
          />
        </div>
        <ReasonRow v-if="reason(one)" :reason="reason(one)!" />
        <div class="row">
          <button
            v-tooltip.bottom="'Carry it onto a parameter in a spine, or open Picture and use a socket'"
            class="button grip"
            :style="{ color: show.colour(id(one)) }"
            @pointerdown="pick($event, id(one))"
            @click="emit('routes', id(one))"
          >
            <i class="pi pi-arrows-alt" />{{
              uses(one)
                ? uses(one) === 1
                  ? 'moves one thing'
                  : `moves ${uses(one)} things`
                : 'moves nothing yet'
            }}
          </button>
          <LearnFader
            v-if="one.part.kind === 'fader'"
            :target="`/modulators/${one.id}/part/values/level`"
            :title="one.name"
          />
          <span class="grow" /><button
            class="button plain"
            aria-label="Remove modulator"
            @click="show.edit({ edit: 'remove', path: `/modulators/${one.id}` }, 'Remove modulator')"
          >
            <i class="pi pi-trash" />
          </button>
        </div>
      </div>
      <div class="right">
        <small class="soft">{{ show.kindOf(one.part)?.title }}</small><PartControls
          :part="one.part"
          :path="`/modulators/${one.id}/part`"
          :columns="columns(one)"
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
