<script setup lang="ts">
// Hands over everything: grand master, freeze, fast flashes.
import { computed } from 'vue'
import PartControls from '../controls/PartControls.vue'
import { useShow } from '../live/show'

const show = useShow()
const lights = computed(() => show.document?.lights)
</script>

<template>
  <div v-if="lights?.part" class="all">
    <PartControls :part="lights.part" path="/lights/part" :columns="1" />
    <div class="row">
      <button
        v-tooltip.bottom="'What is sent stays as it is'"
        class="button"
        :class="{ on: lights.frozen }"
        :aria-pressed="lights.frozen"
        @click="show.set('/lights/frozen', !lights.frozen, lights.frozen ? 'Lamps go on' : 'Freeze lamps')"
      >
        Freeze all
      </button>
      <button
        v-tooltip.bottom="'Lamps may flash more than three times a second in this show'"
        class="button"
        :class="{ on: lights.strobe }"
        :aria-pressed="lights.strobe"
        @click="show.set('/lights/strobe', !lights.strobe, 'Fast flashes')"
      >
        Fast flashes
      </button>
    </div>
  </div>
</template>

<style scoped>
.all {
  border-bottom: 1px solid var(--edge);
  padding-bottom: 8px;
  margin-bottom: 8px;
}
.button {
  flex: 1;
  justify-content: center;
}
</style>
