<script setup lang="ts">
// Whether a step is still fitted to what was heard, and fitting it anew.
import { computed } from 'vue'
import { api, type Part, type Route } from '../api/api'
import { useShow } from '../live/show'

const props = defineProps<{ route: Route; part: Part }>()
const show = useShow()
const value = (name: string): number => Number((props.part.values as Record<string, unknown>)[name])
/** Whether its range is still what was fitted to the last seconds. */
const fitted = computed(
  () =>
    props.part.kind === 'range' &&
    !!props.route.fitted &&
    props.route.fitted.every((edge, i) => Math.abs(edge - value(['low', 'high'][i]!)) < 0.0005),
)
function fit(): void {
  api.fit(props.route.id, props.part.id).catch(show.complain)
}
</script>

<template>
  <button
    v-tooltip.top="`${show.kindOf(part)?.fits}: fit again`"
    class="fit"
    :class="{ fitted }"
    :aria-label="`Fit ${part.kind} again`"
    @click="fit"
  >
    {{ fitted ? 'fitted' : 'fit' }} <i class="pi pi-refresh" />
  </button>
</template>

<style scoped>
.fit {
  background: none;
  border: 0;
  min-height: 32px;
  padding: 0 3px;
  color: var(--soft);
  cursor: pointer;
  font-size: 13px;
}
.fitted {
  color: var(--bolt);
}
.fit .pi {
  font-size: 11px;
}
</style>
