<script setup lang="ts">
// What is carried, at the hand that carries it, and what letting go would do.
import { computed } from 'vue'
import { useShow } from '../live/show'
import { carried } from './carry'

const show = useShow()
const route = computed(() => (show.document?.routes ?? []).find((each) => each.id === carried.value?.route))
const says = computed(() => {
  const held = carried.value
  if (!held) return ''
  if (held.over) return ` moves ${show.targetName(held.over.split(' ')[0]!)}`
  if (!route.value) return ''
  const heard = show.signals.get(route.value.signal)?.title ?? 'What is gone'
  return held.signal ? ` in place of ${heard}` : `, moved by ${heard} too`
})
const hint = computed(() => (carried.value?.signal ? ' onto a parameter or a route' : ' onto a route'))
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
    {{ carried.name }}<span v-if="says">{{ says }}</span
    ><span v-else class="soft">{{ hint }}</span>
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
