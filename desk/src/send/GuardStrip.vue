<script setup lang="ts">
// The guard: whether it watches, what it holds back now, and what moves that.
import { computed, ref } from 'vue'
import { state } from '../live/live'
import { heldPercent, outputStates } from '../live/outputs'
import { useShow } from '../live/show'
import GuardPanel from './GuardPanel.vue'

/** short: in the pulse strip there is room for a sign and a number. */
const props = defineProps<{ short?: boolean }>()
const show = useShow()
const open = ref(false)
const on = computed(() => show.document?.guard?.on !== false)
const held = computed(() => Math.max(0, ...Object.values(outputStates.value).map((each) => each.held)))
const causes = computed(() => state.value.guard?.causes ?? [])
const percent = computed(() => heldPercent(held.value))
const words = computed(() => {
  if (!on.value) return 'Guard is off'
  if (!percent.value) return 'Guard watches'
  const cause = causes.value[0]
  return `Holds back ${percent.value} %${cause ? `: ${cause.text}` : ''}`
})
const sign = computed(() => {
  if (!props.short) return words.value
  if (!on.value) return 'off'
  return percent.value ? `${percent.value} %` : ''
})
</script>

<template>
  <button
    class="button guard"
    :class="{ danger: !on, on: on && percent }"
    :data-testid="short ? 'guard-sign' : 'guard'"
    :aria-label="words"
    :title="`${words}. It keeps pictures from flashing more often than is safe.`"
    @click="open = true"
  >
    <i class="pi pi-shield" /> {{ sign }}
  </button>
  <GuardPanel v-if="open" :held="held" @close="open = false" />
</template>

<style scoped>
.guard {
  max-width: 420px;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
