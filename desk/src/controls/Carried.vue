<script setup lang="ts">
// What is carried, at the hand that carries it.
import { carried } from './carry'
import { useShow } from '../live/show'

const show = useShow()
</script>

<template>
  <div
    v-if="carried"
    class="carried"
    :style="{
      left: `${carried.x + 12}px`,
      top: `${carried.y + 8}px`,
      borderColor: carried.colour,
      color: carried.colour,
    }"
  >
    {{ carried.name }}<span v-if="carried.over"> moves {{ show.targetName(carried.over) }}</span
    ><span v-else class="soft"> onto a parameter</span>
  </div>
</template>

<style scoped>
.carried {
  position: fixed;
  z-index: 3000;
  pointer-events: none;
  background: var(--ground);
  border: 2px solid;
  border-radius: 8px;
  padding: 5px 10px;
  font-weight: 700;
  white-space: nowrap;
}
.carried span {
  font-weight: 400;
  color: var(--text);
}
</style>
