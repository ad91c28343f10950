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
import { ref } from 'vue'
import { COLUMNS, type Column } from './columns'

const props = defineProps<{ wide: Column[]; share: number }>()
const emit = defineEmits<{ open: [column: Column]; beside: [column: Column]; part: [share: number] }>()
const columns = { hear: HearColumn, route: RouteColumn, picture: PictureColumn, lights: LightsColumn }
const spines = { hear: HearSpine, route: RouteSpine, picture: PictureSpine, lights: LightsSpine }
const isWide = (column: Column): boolean => props.wide.includes(column)
const grow = (column: Column): number => {
  if (props.wide.length < 2) return 1
  return column === props.wide[0] ? props.share : 1 - props.share
}

// The border between two that stand open is dragged.
const main = ref<HTMLElement>()
const widths = (): [HTMLElement, HTMLElement] => {
  const [left, right] = main.value!.querySelectorAll<HTMLElement>('.column')
  return [left!, right!]
}
function drag(event: PointerEvent): void {
  const border = event.currentTarget as HTMLElement
  if (event.type === 'pointerdown') border.setPointerCapture(event.pointerId)
  if (!border.hasPointerCapture(event.pointerId)) return
  const [left, right] = widths()
  const from = left.getBoundingClientRect().left
  const room = left.offsetWidth + right.offsetWidth
  // Spines that stand between belong to neither.
  const between = right.getBoundingClientRect().left - from - left.offsetWidth
  emit('part', (event.clientX - from - (event.clientX > from + left.offsetWidth ? between : 0)) / room)
}
function key(event: KeyboardEvent): void {
  const by = { ArrowLeft: -0.05, ArrowRight: 0.05 }[event.key]
  if (by) emit('part', props.share + by)
}
</script>

<template>
  <main ref="main" class="current">
    <template v-for="column in COLUMNS" :key="column.id">
      <section
        :class="isWide(column.id) ? 'column' : 'spine'"
        :style="isWide(column.id) ? { flexGrow: grow(column.id) } : undefined"
        :aria-label="column.title"
        :data-column="column.id"
      >
        <component :is="columns[column.id]" v-if="isWide(column.id)" />
        <template v-else>
          <button class="opener" :aria-label="`Open ${column.title}`" @click="emit('open', column.id)">
            <span class="title"
              ><strong>{{ column.title }}</strong
              ><kbd>{{ column.key }}</kbd></span
            >
            <component :is="spines[column.id]" />
          </button>
          <button
            v-tooltip.bottom="`Open it beside the other: Shift+${column.key}`"
            class="besides"
            :aria-label="`Open ${column.title} beside`"
            @click="emit('beside', column.id)"
          >
            <i class="pi pi-arrows-h" />
          </button>
        </template>
      </section>
      <div
        v-if="wide.length > 1 && column.id === wide[0]"
        class="border"
        role="separator"
        tabindex="0"
        aria-orientation="vertical"
        aria-label="Border between the two; arrows move it"
        :aria-valuenow="Math.round(share * 100)"
        @pointerdown="drag"
        @pointermove="drag"
        @keydown="key"
        @dblclick="emit('part', 0.5)"
      />
    </template>
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
  transition: flex-basis 0.15s;
  overflow: hidden;
}
.column {
  container: column / inline-size;
  flex: 1 1 0;
  border-color: var(--edge-strong);
  padding: 10px 12px;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.spine {
  flex: 0 0 104px;
  position: relative;
}
.besides {
  position: absolute;
  right: 2px;
  bottom: 2px;
  width: 32px;
  height: 32px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: 8px;
  color: var(--soft);
  cursor: pointer;
  opacity: 0;
}
.spine:hover .besides,
.besides:focus-visible {
  opacity: 1;
}
.border {
  flex: 0 0 8px;
  margin: 0 -4px;
  border-radius: 4px;
  cursor: ew-resize;
  touch-action: none;
}
.border:hover,
.border:focus-visible {
  background: var(--edge-strong);
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
