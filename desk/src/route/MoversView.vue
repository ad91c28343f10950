<script setup lang="ts">
// Signals that are made, not heard: each with its live trace and every setting; carry its name onto a parameter.
import { computed } from 'vue'
import { api, type Mover, type Reason } from '../shared/api'
import { pick } from '../shared/carry'
import LearnFader from '../shared/LearnFader.vue'
import NameField from '../shared/NameField.vue'
import PartControls from '../shared/PartControls.vue'
import ReasonRow from '../shared/ReasonRow.vue'
import { useShow } from '../shared/show'
import { state } from '../shared/live'
import Trace from '../shared/Trace.vue'
import { Block } from '../shared/wire'

const emit = defineEmits<{ routes: [signal: string] }>()
const show = useShow()
const movers = computed(() => show.document?.movers ?? [])
const kinds = computed(() => show.kinds.filter((kind) => kind.family === 'mover'))
const id = (one: Mover): string => `mover-${one.id}`
const uses = (one: Mover): number =>
  (show.document?.routes ?? []).filter((route) => route.signal === id(one)).length
const trouble = (one: Mover): string => state.value.mover_troubles?.[one.part.id] ?? ''
const cure = (one: Mover): Reason =>
  one.part.kind === 'sum'
    ? {
        text: trouble(one),
        cure: 'Write it anew',
        action: '',
        edit: { edit: 'set', path: `/movers/${one.id}/part/values/words`, value: 'low' },
      }
    : {
        text: trouble(one),
        cure: 'Remove it',
        action: '',
        edit: { edit: 'remove', path: `/movers/${one.id}` },
      }
const add = (kind: string): void => {
  api.addMover(kind).catch(show.complain)
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
    <p v-if="!movers.length" class="card soft">
      Nothing is made yet. An LFO swings by itself, an envelope follows a line you draw, a pattern steps on
      the beat, a fader waits for your hand, an expression joins signals: each can move anything.
    </p>
    <article v-for="one in movers" :key="one.id" class="card mover" :data-mover="one.id">
      <div class="left">
        <NameField
          class="name"
          :value="one.name"
          :label="`Name of ${one.name}`"
          :style="{ color: show.colour(id(one)) }"
          @change="(name) => show.set(`/movers/${one.id}/name`, name, 'Rename mover')"
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
        <ReasonRow v-if="trouble(one)" :reason="cure(one)" />
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
            :target="`/movers/${one.id}/part/values/level`"
            :title="one.name"
          />
          <span class="grow" /><button
            class="button plain"
            aria-label="Remove mover"
            @click="show.edit({ edit: 'remove', path: `/movers/${one.id}` }, 'Remove mover')"
          >
            <i class="pi pi-trash" />
          </button>
        </div>
      </div>
      <div class="right">
        <small class="soft">{{ show.kind(one.part.kind)?.title }}</small><PartControls
          :part="one.part"
          :path="`/movers/${one.id}/part`"
          :columns="
            one.part.kind === 'pattern' || one.part.kind === 'envelope' || one.part.kind === 'sum' ? 1 : 3
          "
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
.mover {
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
