<script setup lang="ts">
// All lamps with their numbers, kinds and addresses, over the drawing.
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import Drawer from 'primevue/drawer'
import { computed } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'
import { useChosen } from './chosen'
import { useClashes } from './useClashes'

const emit = defineEmits<{ close: [] }>()
const show = useShow()
const chosen = useChosen()
const { clashes } = useClashes()
const rows = computed(() =>
  chosen.lamps.map((lamp) => {
    const info = show.kindOf(lamp.fixture)
    const mode = info?.modes?.find((mode) => mode.name === lamp.mode) ?? info?.modes?.[0]
    const pixels = (lamp.pixels || info?.pixels?.[0] || 1) - (info?.pixels?.[0] ?? 1)
    return {
      ...{
        id: lamp.id,
        number: lamp.number ?? 0,
        name: lamp.name,
        kind: info?.title ?? 'a kind that is gone',
      },
      ...{ mode: String(mode?.name ?? ''), address: `${lamp.universe}.${lamp.address}` },
      sort: (lamp.universe ?? 1) * 1000 + (lamp.address ?? 1),
      channels: Number(mode?.channels ?? 0) + pixels * Number(mode?.a_pixel ?? 0),
      wrong: clashes.value.find((clash) => clash.lamp === lamp.id)?.text ?? '',
    }
  }),
)
const selection = computed({
  get: () => rows.value.filter((row) => chosen.set.has(row.id)),
  set: (now) => chosen.choose(now.map((row) => row.id)),
})
const address = (id: string, at = ''): void => {
  api.lamps.address([id], at).catch(show.complain)
}
</script>

<template>
  <Drawer visible position="bottom" header="Patch" class="sheet" @update:visible="emit('close')">
    <DataTable
      v-model:selection="selection"
      :value="rows"
      data-key="id"
      size="small"
      scrollable
      scroll-height="flex"
      selection-mode="multiple"
      :meta-key-selection="true"
    >
      <Column field="number" header="Number" sortable />
      <Column field="name" header="Name" sortable />
      <Column field="kind" header="Kind" sortable />
      <Column field="mode" header="Mode" />
      <Column header="Address" sort-field="sort" sortable>
        <template #body="{ data }">
          <input
            class="num address"
            :value="data.address"
            :aria-label="`Address of ${data.name}`"
            @click.stop
            @change="address(data.id, ($event.target as HTMLInputElement).value)"
          />
        </template>
      </Column>
      <Column field="channels" header="Channels" />
      <Column header="">
        <template #body="{ data }">
          <span v-if="data.wrong" class="bad"
            >{{ data.wrong }}
            <button class="button" @click.stop="address(data.id)">To the next that is free</button></span
          >
        </template>
      </Column>
      <template #empty>No lamp hangs yet.</template>
    </DataTable>
  </Drawer>
</template>

<style scoped>
.address {
  width: 90px;
  min-height: 32px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  padding: 0 8px;
}
.bad {
  color: var(--alarm);
}
</style>
