<script setup lang="ts">
// The palette in use, and how long the next one takes to come.
import { computed, ref } from 'vue'
import { api } from '../api/api'
import Choice from '../controls/Choice.vue'
import { usePalette } from '../live/palette'
import { useShow } from '../live/show'

const show = useShow()
const { usable, palette, colours } = usePalette()
const OVER = { now: {}, '1 beat': { over_beats: 1 }, '4 beats': { over_beats: 4 }, '2 s': { over_ms: 2000 } }
type Over = keyof typeof OVER
const over = ref<Over>('now')
const ways = (Object.keys(OVER) as Over[]).map((value) => ({ value, label: value }))
const options = computed(() => usable.value.map(({ id, name }) => ({ value: id, label: name })))
const take = (id: string): void => {
  api.palettes.use(id, OVER[over.value]).catch(show.complain)
}
</script>

<template>
  <div v-if="palette" class="row" data-palette>
    <span class="colours" aria-hidden="true"
      ><i v-for="(colour, i) in colours" :key="i" :style="{ background: colour }"
    /></span>
    <Choice :value="palette.id" :options="options" label="Palette in use" @choose="take" />
    <Choice
      v-tooltip.bottom="'How long the next palette takes to come'"
      :value="over"
      :options="ways"
      label="The next palette comes over"
      @choose="(to) => (over = to)"
    />
  </div>
</template>

<style scoped>
.row {
  gap: 6px;
}
.colours {
  display: flex;
  border-radius: 5px;
  overflow: hidden;
  border: 1px solid var(--edge-strong);
}
.colours i {
  width: 12px;
  height: 22px;
}
</style>
