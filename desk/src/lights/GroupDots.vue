<script setup lang="ts">
// A group as its pattern: its lamps where they hang among all, small.
import { computed } from 'vue'
import { useChosen } from './chosen'

const props = defineProps<{ members: string[] }>()
const WIDE = 88
const HIGH = 24
const chosen = useChosen()
const dots = computed(() => {
  const places = chosen.lamps.map((lamp) => ({ id: lamp.id, x: lamp.place?.x ?? 0, z: lamp.place?.z ?? 0 }))
  const span = (values: number[]): [number, number] => {
    const low = Math.min(...values)
    return [low, Math.max(1, Math.max(...values) - low)]
  }
  const [left, width] = span(places.map((place) => place.x))
  const [floor, height] = span(places.map((place) => place.z))
  const own = new Set(props.members)
  return places.map((place) => ({
    x: 3 + ((place.x - left) / width) * (WIDE - 6),
    y: HIGH - 3 - ((place.z - floor) / height) * (HIGH - 6),
    own: own.has(place.id),
  }))
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDE} ${HIGH}`" :width="WIDE" :height="HIGH" aria-hidden="true">
    <circle
      v-for="(dot, index) in dots"
      :key="index"
      :cx="dot.x"
      :cy="dot.y"
      :r="dot.own ? 2.4 : 1.2"
      :fill="dot.own ? 'var(--text)' : 'var(--edge-strong)'"
    />
  </svg>
</template>
