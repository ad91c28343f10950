<script setup lang="ts">
// What a pad is called, how it is played, and up to eight things that it does.
import Drawer from 'primevue/drawer'
import { computed } from 'vue'
import { api, type Pad } from '../api/api'
import Choice from '../controls/Choice.vue'
import NameField from '../controls/NameField.vue'
import { useShow } from '../live/show'
import ActionEditor from './ActionEditor.vue'
import LongPress from './LongPress.vue'
import { padWords } from './words'

const props = defineProps<{ pad: Pad; page: string }>()
const emit = defineEmits<{ close: [] }>()
const show = useShow()
const path = computed(() => `/pages/${props.page}/pads/${props.pad.id}`)
const MODES = [
  { value: 'press', label: 'At each press' },
  { value: 'hold', label: 'While it is held' },
  { value: 'switch', label: 'On and off in turn' },
] as const
const WAITS = [
  { value: 'no', label: 'At once' },
  { value: 'beat', label: 'On the next beat' },
  { value: 'bar', label: 'On the next bar' },
] as const
const set = (name: string, value: string): void => show.set(`${path.value}/${name}`, value, 'Pad')
function remove(): void {
  show.edit({ edit: 'remove', path: path.value }, 'Remove pad')
  emit('close')
}
const more = (): void => {
  api.pages.addAction(props.pad.id!, 'show-look').catch(show.complain)
}
</script>

<template>
  <Drawer
    visible
    position="right"
    :header="`Pad ${(pad.at ?? 0) + 1}`"
    class="editor"
    @update:visible="emit('close')"
  >
    <NameField
      class="name"
      :value="padWords(show, pad)"
      label="Name of the pad"
      @change="(name) => set('name', name)"
    />
    <div class="row">
      <Choice
        class="grow"
        :value="pad.mode ?? 'press'"
        :options="MODES"
        label="How it is played"
        @choose="(mode) => set('mode', mode)"
      />
      <Choice
        class="grow"
        :value="pad.waits ?? 'no'"
        :options="WAITS"
        label="When it acts"
        @choose="(waits) => set('waits', waits)"
      />
    </div>
    <ActionEditor
      v-for="action in pad.actions"
      :key="action.id"
      :action="action"
      :pad="pad.id"
      :path="`${path}/actions/${action.id}`"
    />
    <div class="row">
      <button class="button" :disabled="(pad.actions?.length ?? 0) >= 8" @click="more">
        <i class="pi pi-plus" />One thing more
      </button>
      <span class="grow" />
      <LongPress label="Take the pad away" @done="remove"><i class="pi pi-trash" /></LongPress>
    </div>
  </Drawer>
</template>

<style scoped>
.name {
  font-size: 20px;
  width: 100%;
  margin-bottom: 8px;
}
</style>
