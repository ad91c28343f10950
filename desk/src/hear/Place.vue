<script setup lang="ts">
// Where the track is. While it is held, it shows the hand's place, not the track's.
import { ref } from 'vue'
import { clock } from '../shared/format'

defineProps<{ position: number; length: number }>()
const emit = defineEmits<{ seek: [seconds: number] }>()
const held = ref<number | null>(null)
function go(event: Event): void { emit('seek', Number((event.target as HTMLInputElement).value)); held.value = null }
</script>

<template>
  <input class="grow" type="range" min="0" :max="length" step="0.1" :value="held ?? position" aria-label="Place in the track" @input="held = Number(($event.target as HTMLInputElement).value)" @change="go" />
  <span class="num soft">{{ clock(held ?? position) }}</span>
</template>

<style scoped>
input { accent-color: var(--hand); min-width: 0; height: 32px }
</style>
