<script setup lang="ts">
// The current: sound enters at the left, light leaves at the right. One column is open, the others live on as
// spines.
import HearColumn from './hear/HearColumn.vue'
import HearSpine from './hear/HearSpine.vue'
import LightsColumn from './lights/LightsColumn.vue'
import LightsSpine from './lights/LightsSpine.vue'
import PictureColumn from './picture/PictureColumn.vue'
import PictureSpine from './picture/PictureSpine.vue'
import RouteColumn from './route/RouteColumn.vue'
import RouteSpine from './route/RouteSpine.vue'
import { COLUMNS, type Column } from './columns'

const open = defineModel<Column>('open', { required: true })
const wide = { hear: HearColumn, route: RouteColumn, picture: PictureColumn, lights: LightsColumn }
const narrow = { hear: HearSpine, route: RouteSpine, picture: PictureSpine, lights: LightsSpine }
</script>

<template>
  <main class="current">
    <section
      v-for="column in COLUMNS"
      :key="column.id"
      :class="column.id === open ? 'column' : 'spine'"
      :aria-label="column.title"
      :data-column="column.id"
    >
      <component :is="wide[column.id]" v-if="column.id === open" />
      <button v-else class="opener" :aria-label="`Open ${column.title}`" @click="open = column.id">
        <span class="title"
          ><strong>{{ column.title }}</strong
          ><kbd>{{ column.key }}</kbd></span
        >
        <component :is="narrow[column.id]" />
      </button>
    </section>
  </main>
</template>

<style scoped>
.current {
  display: flex;
  gap: 6px;
  padding: 0 8px;
  min-height: 0;
}
section {
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: 10px;
  min-height: 0;
  transition:
    flex-grow 0.15s,
    flex-basis 0.15s;
  overflow: hidden;
}
.column {
  flex: 1 1 0;
  border-color: var(--edge-strong);
  padding: 10px 12px;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.spine {
  flex: 0 0 104px;
}
.opener {
  width: 100%;
  height: 100%;
  background: none;
  border: 0;
  padding: 10px 9px;
  text-align: left;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  color: inherit;
}
.spine:hover {
  border-color: var(--edge-strong);
}
.title {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 16px;
}
kbd {
  font:
    12px 'JetBrains Mono Variable',
    monospace;
  border: 1px solid var(--edge);
  border-radius: 4px;
  padding: 0 5px;
  color: var(--soft);
}
</style>
