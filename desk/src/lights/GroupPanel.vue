<script setup lang="ts">
// A group as such: its name, its master, its order, how its lamps answer. What its lamps do stands below.
import { computed } from 'vue'
import { api, type Group } from '../api/api'
import NameField from '../controls/NameField.vue'
import PartControls from '../controls/PartControls.vue'
import Toggle from '../controls/Toggle.vue'
import { useShow } from '../live/show'
import { useChosen } from './chosen'
import CurveView from './CurveView.vue'

const props = defineProps<{ group: Group }>()
const show = useShow()
const chosen = useChosen()
const path = computed(() => `/groups/${props.group.id}`)
const members = computed(() => (props.group.members ?? []).filter((id) => chosen.byId.has(id)))
const lamps = computed(() => members.value.flatMap((id) => chosen.byId.get(id) ?? []))
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
function order(ids: string[]): void {
  show.set(`${path.value}/members`, ids, 'Order of a group')
  chosen.ids = ids
}
const acrossOf = (id: string): number => chosen.byId.get(id)?.place?.x ?? 0
const upOf = (id: string): number => chosen.byId.get(id)?.place?.z ?? 0
</script>

<template>
  <div class="row">
    <NameField
      class="grow"
      label="Name of the group"
      :value="group.name"
      @change="(name) => show.set(`${path}/name`, name, 'Name of a group')"
    />
    <button
      class="tiny"
      :aria-label="`Remove the group ${group.name}`"
      @click="doing(api.lamps.ungroup(group.id))"
    >
      <i class="pi pi-trash" />
    </button>
  </div>
  <p v-if="!members.length" class="soft">
    This group has no lamps. Choose some on the drawing, and drag them here.
  </p>
  <PartControls :part="group.part!" :path="`${path}/part`" :columns="1" />
  <details>
    <summary class="soft">Its order, its curve</summary>
    <div class="row wrap">
      <button class="button" @click="order([...members].sort((a, b) => acrossOf(a) - acrossOf(b)))">
        Left to right
      </button>
      <button class="button" @click="order([...members].sort((a, b) => upOf(a) - upOf(b)))">Upward</button>
      <button class="button" @click="order([...members].reverse())">Turn round</button>
      <button class="button" :disabled="!chosen.ids.length" @click="order([...chosen.ids])">
        As chosen now
      </button>
    </div>
    <label class="row soft pixels"
      ><Toggle
        :value="group.pixels ?? false"
        label="Each pixel counts by itself"
        @change="(on) => show.set(`${path}/pixels`, on, 'Pixels of a group')"
      />each pixel counts by itself in chases</label
    >
    <CurveView :part="group.answer!" :path="`${path}/answer`" :lamps="lamps" />
  </details>
</template>

<style scoped>
.wrap {
  flex-wrap: wrap;
  gap: 6px;
}
.pixels {
  min-height: 36px;
}
summary {
  min-height: 32px;
  padding-top: 6px;
  cursor: pointer;
}
.tiny {
  min-width: 34px;
  min-height: 34px;
  background: none;
  border: 0;
  color: var(--soft);
  cursor: pointer;
}
</style>
