<script setup lang="ts">
// How far a route moved, its steps, and how much of it acts; why it does not.
import { computed } from 'vue'
import type { Route } from '../api/api'
import NumberChip from '../controls/NumberChip.vue'
import Socket from '../controls/Socket.vue'
import ReasonRow from '../controls/ReasonRow.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'

const props = defineProps<{ route: Route; open: boolean; moved: number; colour: string }>()
const emit = defineEmits<{ toggle: [] }>()
const show = useShow()
const path = computed(() => `/routes/${props.route.id}`)
const shapers = computed(() => props.route.shapers ?? [])
const why = computed(() => state.value.why?.[props.route.id])
const mute = (): void =>
  show.set(`${path.value}/muted`, !props.route.muted, props.route.muted ? 'Unmute route' : 'Mute route')
const solo = (): void =>
  show.set(`${path.value}/solo`, !props.route.solo, props.route.solo ? 'End solo' : 'Solo route')
const remove = (): void => show.edit({ edit: 'remove', path: path.value }, 'Remove route')
function cured(action: string): void {
  if (action === 'open' && !props.open) emit('toggle')
}
</script>

<template>
  <div class="tools">
    <span
      v-tooltip.top="`Went ${Math.round(moved * 100)} % of its way in the last bar`"
      class="moved"
      role="meter"
      :aria-valuenow="Math.round(moved * 100)"
      aria-label="Moved in the last bar"
      ><i :style="{ width: `${Math.min(100, moved * 100)}%`, background: colour }"
    /></span>
    <button class="button" :aria-expanded="open" @click="emit('toggle')">
      {{ open ? 'Close' : 'Steps' }} <span class="num soft">{{ shapers.length }}</span>
    </button>
    <button class="button" :class="{ on: route.muted }" :aria-pressed="route.muted" @click="mute">
      {{ route.muted ? 'Muted' : 'Mute' }}
    </button>
    <button class="button" :class="{ on: route.solo }" :aria-pressed="route.solo" @click="solo">Solo</button>
    <span class="soft row control amount" :data-target="`route@${route.id}.amount`"
      >amount<Socket :target="`route@${route.id}.amount`" title="Amount" /></span
    ><NumberChip
      :value="Math.round((route.amount ?? 1) * 100)"
      :low="0"
      :high="100"
      whole
      label="Amount"
      unit="%"
      @change="(to, gesture) => show.set(`${path}/amount`, to / 100, 'Route amount', gesture)"
    />
    <span class="grow" />
    <ReasonRow v-if="why" :reason="why" :route="route.id" @cured="cured" />
    <button
      v-tooltip.top="'Remove this route (undo brings it back)'"
      class="button plain"
      aria-label="Remove route"
      @click="remove"
    >
      <i class="pi pi-trash" />
    </button>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  font-size: 14px;
}
.tools .button {
  min-height: 32px;
  padding: 0 10px;
}
.amount {
  gap: 2px;
}
.moved {
  width: 124px;
  height: 8px;
  border-radius: 4px;
  background: var(--ground);
  overflow: hidden;
  flex: none;
}
.moved i {
  display: block;
  height: 100%;
  border-radius: 4px;
}
</style>
