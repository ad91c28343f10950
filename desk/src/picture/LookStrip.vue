<script setup lang="ts">
// The looks of the show: which is seen, which lies beside it, and how one goes over into another.
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import { useResizeObserver } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { api } from '../api/api'
import Choice from '../controls/Choice.vue'
import PartControls from '../controls/PartControls.vue'
import { useShow } from '../live/show'
import CueLine from './CueLine.vue'
import SmallPicture from './SmallPicture.vue'

const show = useShow()
const OVER = [
  { value: 0, label: 'at once' },
  { value: 1, label: '1 beat' },
  ...[2, 4, 8, 16].map((beats) => ({ value: beats, label: `${beats} beats` })),
]
const over = ref(4)
const looks = computed(() => show.document?.looks ?? [])
const beside = computed(() =>
  looks.value.find((look) => look.id === show.document?.beside && look.id !== show.document?.look),
)
const strip = ref<HTMLElement>()
// The shown look is always in sight, whoever chose it, and whether this was in sight meanwhile.
const find = (): void =>
  strip.value?.querySelector('.pick.shown')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
watch(
  () => show.look?.id,
  () => void nextTick(find),
  { immediate: true, flush: 'post' },
)
useResizeObserver(strip, find)
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
function go(to: string | number): void {
  const look = looks.value.find((look) => look.id === to)
  if (look && look.id !== show.document?.look)
    doing(api.edit({ edit: 'set', path: '/look', value: look.id }, `Look ${look.name}`, '', 0, over.value))
}
const layBeside = (id: string): void => show.set('/beside', id === beside.value?.id ? '' : id, 'Look beside')
</script>

<template>
  <div class="looks row">
    <div ref="strip" class="strip">
      <Tabs unstyled :show-navigators="false" :value="show.look?.id ?? ''" @update:value="go">
        <TabList
          unstyled
          :pt="{ tabList: { 'aria-label': 'Looks', class: 'tabs' }, activeBar: { class: 'hidden' } }"
        >
          <Tab
            v-for="look in looks"
            :key="look.id"
            unstyled
            class="pick"
            :class="{ shown: look.id === show.look?.id, beside: look.id === beside?.id }"
            :value="look.id"
            :pt="{ root: { 'aria-controls': undefined } }"
          >
            <SmallPicture :look="look.id" :content="[look.layers, look.finish]" /><span class="name">{{
              look.name
            }}</span>
          </Tab>
        </TabList>
      </Tabs>
      <div class="sides">
        <span v-for="look in looks" :key="look.id"
          ><button
            v-if="look.id !== show.look?.id"
            v-tooltip.bottom="'Beside the shown look: mix the two by hand'"
            class="side"
            :class="{ on: look.id === beside?.id }"
            :aria-pressed="look.id === beside?.id"
            :aria-label="`${look.name} beside the shown look`"
            @click="layBeside(look.id)"
          >
            B
          </button></span
        >
      </div>
    </div>
    <div class="acts">
      <div class="row soft">
        Over
        <Choice
          :value="over"
          :options="OVER"
          label="How long a look takes to go over into the next"
          @choose="(beats) => (over = beats)"
        />
      </div>
      <span class="row">
        <button
          v-tooltip.bottom="'A copy of this look, with all that moves it'"
          class="button"
          :disabled="!show.look"
          @click="doing(show.makeLook(() => api.addLook(show.look!.name, show.look!.id)))"
        >
          <i class="pi pi-copy" />Copy
        </button>
        <button
          v-tooltip.bottom="'An empty look'"
          class="button"
          aria-label="New look"
          @click="doing(show.makeLook(() => api.addLook('New look')))"
        >
          <i class="pi pi-plus" />
        </button>
      </span>
    </div>
  </div>
  <CueLine :over="over" />
  <div v-if="beside && show.document?.crossfade" class="between row" data-testid="beside">
    <span class="end">{{ show.look?.name }}</span>
    <div class="grow"><PartControls :part="show.document.crossfade" path="/crossfade" :columns="2" /></div>
    <span class="end">{{ beside.name }}</span>
  </div>
</template>

<style scoped>
.looks {
  gap: 12px;
  align-items: stretch;
  margin-bottom: 10px;
}
.strip {
  position: relative;
  overflow-x: auto;
  flex: 1;
  scrollbar-width: thin;
  padding-bottom: 3px;
}
.strip :deep(.tabs),
.sides {
  display: flex;
  gap: 6px;
  width: max-content;
}
.pick,
.sides span {
  width: 92px;
  flex: none;
}
.pick {
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  padding: 0;
  cursor: pointer;
  color: var(--soft);
  text-align: left;
}
.name {
  display: block;
  font-size: 13px;
  line-height: 20px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  padding: 0 2px;
}
.pick.shown {
  color: var(--text);
  border-bottom-color: var(--hand);
}
.pick.beside {
  border-bottom-color: var(--hand);
  border-bottom-style: dashed;
}
.sides {
  position: absolute;
  left: 0;
  top: 0;
  pointer-events: none;
}
.sides span {
  text-align: right;
}
.side {
  pointer-events: auto;
  width: 32px;
  height: 32px;
  background: none;
  border: 0;
  color: var(--text);
  font-weight: 700;
  cursor: pointer;
  opacity: 0;
  text-shadow:
    0 0 4px #000,
    0 0 2px #000;
}
.strip:hover .side,
.side:focus-visible,
.side.on {
  opacity: 1;
}
.side.on {
  color: var(--hand);
}
.acts {
  display: flex;
  flex-direction: column;
  gap: 6px;
  justify-content: space-between;
  flex: none;
}
.acts .button {
  min-height: 32px;
}
.acts .row {
  gap: 6px;
}
.between {
  gap: 12px;
  border: 1px dashed var(--hand);
  border-radius: 8px;
  padding: 4px 10px;
}
.end {
  max-width: 120px;
  font-weight: 700;
  font-size: 14px;
}
</style>
