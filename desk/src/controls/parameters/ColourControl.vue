<script setup lang="ts">
// A colour of its own, or one of the palette in use, which follows when another palette is taken.
import { computed } from 'vue'
import { usePalette } from '../../live/palette'
import type { ControlEmits, ControlProps } from './parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const { colours, palette, seen } = usePalette()
const shown = computed(() => seen(String(props.value)))
const entry = (i: number): string => `@${i + 1}`
</script>

<template>
  <div class="colour">
    <label class="swatch" :style="{ background: shown }">
      <input
        type="color"
        :value="shown"
        :aria-label="parameter.title"
        @input="emit('change', ($event.target as HTMLInputElement).value, `colour-${parameter.name}`)"
      />
    </label>
    <div v-if="colours.length" class="entries">
      <button
        v-for="(colour, i) in colours"
        :key="i"
        v-tooltip.bottom="`Colour ${i + 1} of “${palette?.name}”; it follows the palette`"
        :class="{ here: value === entry(i) }"
        :style="{ background: colour }"
        :aria-label="`${parameter.title}: colour ${i + 1} of the palette`"
        :aria-pressed="value === entry(i)"
        @click="emit('change', entry(i), '')"
      />
    </div>
  </div>
</template>

<style scoped>
.colour {
  display: flex;
  gap: 4px;
  margin: 3px 0;
}
.swatch {
  display: block;
  flex: 1;
  min-width: 40px;
  height: 26px;
  border-radius: 5px;
  border: 1px solid var(--edge-strong);
  cursor: pointer;
}
.swatch input {
  opacity: 0;
  width: 100%;
  height: 100%;
  cursor: pointer;
}
.entries {
  display: flex;
  flex: 1.2;
  min-width: 0;
  gap: 2px;
}
.entries button {
  flex: 1;
  min-width: 0;
  height: 26px;
  padding: 0;
  border: 1px solid transparent;
  border-radius: 4px;
  cursor: pointer;
}
.entries .here {
  border-color: var(--text);
  box-shadow: 0 0 0 1px var(--ground) inset;
}
</style>
