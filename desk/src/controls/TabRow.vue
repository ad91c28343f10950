<script setup lang="ts" generic="T extends string">
// A row of which one is open. Arrow keys go along it.
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'

defineProps<{
  value: T
  tabs: readonly { value: T; label: string; colour?: string; warning?: string; path?: string }[]
  label: string
  /** Side by side in one frame, or loose buttons that may wrap. */
  loose?: boolean
}>()
const emit = defineEmits<{ choose: [value: T] }>()
</script>

<template>
  <Tabs
    unstyled
    select-on-focus
    :show-navigators="false"
    :value="value"
    @update:value="(to) => emit('choose', to as T)"
  >
    <TabList
      unstyled
      :pt="{ tabList: { 'aria-label': label, class: ['tabs', { loose }] }, activeBar: { class: 'hidden' } }"
    >
      <Tab
        v-for="tab in tabs"
        :key="tab.value"
        unstyled
        class="button"
        :class="{ chosen: tab.value === value }"
        :value="tab.value"
        :style="{ color: tab.colour }"
        :data-path="tab.path"
        :pt="{ root: { 'aria-controls': undefined } }"
        ><i v-if="tab.warning" class="pi pi-exclamation-triangle" role="img" :aria-label="tab.warning" />{{
          tab.label
        }}</Tab
      >
    </TabList>
  </Tabs>
</template>

<style scoped>
:deep(.tabs) {
  display: flex;
}
:deep(.tabs.loose) {
  flex-wrap: wrap;
  gap: 5px;
}
.button {
  border-radius: 0;
  border-right-width: 0;
  padding: 0 10px;
}
.button:first-child {
  border-radius: 7px 0 0 7px;
}
.button:last-of-type {
  border-radius: 0 7px 7px 0;
  border-right-width: 1px;
}
.loose .button {
  border-radius: 7px;
  border-right-width: 1px;
  flex: 1 0 auto;
  justify-content: center;
  padding: 0 8px;
}
.chosen {
  background: var(--ground);
  border-bottom-color: var(--hand);
  color: var(--hand);
}
.loose .chosen {
  border-color: currentcolor;
}
</style>
