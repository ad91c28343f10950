<script setup lang="ts">
// What stands over the drawing: which view, choosing, putting in order, hands over everything.
import { api } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import { useShow } from '../live/show'
import { useChosen } from './chosen'

const show = useShow()
const chosen = useChosen()
type Way = keyof typeof chosen.ways
const WAYS: { value: Way; label: string }[] = (
  [
    'all',
    'none',
    'the row',
    'the column',
    'every second',
    'the others',
    'mirror image',
    'turned round',
  ] as Way[]
).map((way) => ({ value: way, label: way[0]!.toUpperCase() + way.slice(1) }))
const ORDERS = [
  { value: 'line', label: 'Evenly on a line' },
  { value: 'arc', label: 'Evenly on an arc' },
  { value: 'grid', label: 'On a grid' },
  { value: 'in a row', label: 'At one height' },
  { value: 'in a column', label: 'One above the other' },
] as const
function arrange(how: (typeof ORDERS)[number]['value']): void {
  api.lamps.arrange(chosen.ids, how, chosen.view).catch(show.complain)
}
const VIEWS = [
  { value: 'front', label: 'Front' },
  { value: 'top', label: 'Top' },
] as const
</script>

<template>
  <div class="row tools">
    <span class="row views" role="group" aria-label="View">
      <button
        v-for="view in VIEWS"
        :key="view.value"
        class="button small"
        :class="{ on: chosen.view === view.value }"
        :aria-pressed="chosen.view === view.value"
        @click="chosen.view = view.value"
      >
        {{ view.label }}
      </button>
    </span>
    <ActMenu title="Choose" label="Choose lamps" :options="WAYS" @choose="(way) => chosen.ways[way]()" />
    <ActMenu title="Put in order" :disabled="chosen.ids.length < 2" :options="ORDERS" @choose="arrange" />
    <span class="soft num count">{{ chosen.ids.length || 'none' }} chosen</span>
  </div>
</template>

<style scoped>
.tools {
  gap: 7px;
  margin-bottom: 6px;
  flex-wrap: wrap;
}
.views {
  gap: 0;
}
.small {
  padding: 0 10px;
}
.count {
  font-size: 14px;
  min-width: 84px;
}
</style>
