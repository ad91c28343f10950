<script setup lang="ts">
// Where what moves a parameter is plugged in: a hole, or the names of what does.
import { computed } from 'vue'
import { openPanel } from './panel'
import { useModulators } from './useModulators'

const props = defineProps<{ target: string; title: string }>()
const all = useModulators()
const modulators = computed(() => all.value.get(props.target) ?? [])
</script>

<template>
  <button
    v-tooltip.top="modulators.length ? 'What moves this, and why not' : 'Let something move this'"
    class="socket"
    :aria-label="`What moves ${title}`"
    @click="openPanel(target, $event.currentTarget as HTMLElement)"
  >
    <i
      v-for="modulator in modulators.slice(0, 2)"
      :key="modulator.name"
      class="chip"
      :class="{ still: modulator.why }"
      :style="{ color: modulator.colour, borderColor: modulator.colour }"
      >{{ modulator.name }}</i><i v-if="modulators.length > 2" class="chip">+{{ modulators.length - 2 }}</i>
    <span v-if="!modulators.length" class="hole" />
  </button>
</template>

<style scoped>
.socket {
  background: none;
  border: 0;
  padding: 0 2px;
  min-width: 26px;
  height: 22px;
  display: inline-flex;
  gap: 4px;
  align-items: center;
  cursor: pointer;
  color: inherit;
}
.hole {
  width: 11px;
  height: 11px;
  border-radius: 50%;
  border: 2px solid var(--edge-strong);
}
.socket:hover .hole {
  border-color: var(--bolt);
}
.chip {
  font-size: 12px;
  border: 1px solid;
  border-radius: 5px;
  padding: 0 6px;
  line-height: 17px;
  font-style: normal;
  background: none;
}
.chip.still {
  border-style: dashed;
}
</style>
