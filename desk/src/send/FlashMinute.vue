<script setup lang="ts">
// The last minute: flashes that were let through under the line that may not be crossed, above it what was held back.
import { computed } from 'vue'
import { flashMinute, heldPercent, outputStates } from '../live/outputs'
import { useShow } from '../live/show'

const show = useShow()
const most = computed(() => show.rules.most_flashes)
const isOn = computed(() => show.document?.guard?.on !== false)
const isLookedAt = computed(() => Object.values(outputStates.value).some((output) => output.pages > 0))
const LINE = 60
const seconds = computed(() =>
  flashMinute.value.map(([flashes, held], at) => ({
    at,
    up: (Math.min(flashes, most.value) / most.value) * (100 - LINE),
    held: Math.sqrt(held) * LINE,
  })),
)
const words = computed(() => {
  // The guard counts where it works: in what is drawn on outputs.
  if (!isOn.value) return 'Nothing is counted while the guard is off'
  const worst = Math.max(0, ...flashMinute.value.map(([flashes]) => flashes))
  const held = flashMinute.value.filter(([, share]) => heldPercent(share)).length
  if (!isLookedAt.value && !worst && !held) return 'Nothing is counted: no output is open'
  const flashed = worst ? `At most ${worst} of ${most.value} flashes in a second` : 'No flashes'
  return `${flashed}, held back in ${held} of ${flashMinute.value.length} seconds`
})
</script>

<template>
  <figure role="img" :aria-label="`The last minute: ${words}`">
    <svg viewBox="0 0 60 100" preserveAspectRatio="none" aria-hidden="true">
      <rect
        v-for="each in seconds"
        :key="each.at"
        class="let"
        :x="each.at + 0.1"
        :y="100 - each.up"
        width="0.8"
        :height="each.up"
      />
      <rect
        v-for="each in seconds"
        :key="`held ${each.at}`"
        class="held"
        :x="each.at + 0.1"
        :y="LINE - each.held"
        width="0.8"
        :height="each.held"
      />
      <line x1="0" x2="60" :y1="LINE" :y2="LINE" vector-effect="non-scaling-stroke" />
    </svg>
    <span class="most soft" aria-hidden="true">{{ most }} a second</span>
    <figcaption class="soft num">{{ words }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  flex: 1;
  min-width: 0;
  margin: 0;
  display: flex;
  align-items: center;
  gap: 10px;
}
.most {
  font-size: 11px;
  white-space: nowrap;
  /* Beside the line, which is a little below the middle. */
  transform: translateY(4px);
}
svg {
  flex: 1;
  min-width: 120px;
  height: 40px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
}
.let {
  fill: var(--soft);
}
.held {
  fill: var(--hand);
}
line {
  stroke: var(--alarm);
  stroke-width: 1;
}
figcaption {
  font-size: 12px;
  white-space: nowrap;
}
</style>
