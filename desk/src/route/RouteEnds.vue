<script setup lang="ts">
// From where to where a route moves a parameter: numbers, or two colours.
import type { Route } from '../api/api'
import NumberChip from '../controls/NumberChip.vue'
import { useEnds } from './useEnds'

const props = defineProps<{ route: Route }>()
const { parameter, isColour, ends, limits, setEnd } = useEnds(props)
</script>

<template>
  <template v-if="isColour">
    <span class="soft">from</span
    ><input
      type="color"
      :value="String(route.low)"
      aria-label="Low colour"
      @change="setEnd('low', ($event.target as HTMLInputElement).value)"
    />
    <span class="soft">to</span
    ><input
      type="color"
      :value="String(route.high)"
      aria-label="High colour"
      @change="setEnd('high', ($event.target as HTMLInputElement).value)"
    />
  </template>
  <template v-else-if="parameter">
    <span class="soft">from</span>
    <NumberChip
      :value="ends[0]"
      :low="limits[0]"
      :high="limits[1]"
      label="Low end"
      @change="(to, gesture) => setEnd('low', to, gesture)"
    />
    <span class="soft">to</span>
    <NumberChip
      :value="ends[1]"
      :low="limits[0]"
      :high="limits[1]"
      label="High end"
      :unit="parameter.unit"
      @change="(to, gesture) => setEnd('high', to, gesture)"
    />
  </template>
</template>

<style scoped>
input[type='color'] {
  width: 38px;
  height: 32px;
  padding: 2px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--ground);
}
</style>
