<script setup lang="ts">
// One action of a pad: which, and its values, made from its declaration.
import { computed } from 'vue'
import { api, type Part } from '../api/api'
import Choice from '../controls/Choice.vue'
import ParameterControl from '../controls/ParameterControl.vue'
import { useShow } from '../live/show'
import { colourOf } from './words'

const props = defineProps<{ action: Part; path: string; pad: string }>()
const show = useShow()
const info = computed(() => show.kind('action', props.action.kind))
const kinds = computed(() =>
  show.kinds
    .filter((kind) => kind.family === 'action')
    .map((kind) => ({ value: kind.kind, label: kind.title }))
    .sort((a, b) => a.label.localeCompare(b.label)),
)
const parameters = computed(() => show.parametersOf(info.value, props.action.values ?? {}))
const become = (kind: string): void => {
  api.pages.becomeAction(props.pad, props.action.id, kind).catch(show.complain)
}
</script>

<template>
  <section class="action" :style="{ borderLeftColor: colourOf(action) }">
    <div class="row">
      <Choice class="grow" :value="action.kind" :options="kinds" label="What it does" find @choose="become" />
      <button
        class="button plain"
        aria-label="Take this action away"
        @click="show.edit({ edit: 'remove', path }, 'Action of a pad')"
      >
        <i class="pi pi-times" />
      </button>
    </div>
    <p class="soft">{{ info?.help }}</p>
    <ParameterControl
      v-for="parameter in parameters"
      :key="parameter.name"
      :parameter="parameter"
      :value="(action.values as Record<string, number>)[parameter.name]!"
      @change="
        (value, gesture) => show.set(`${path}/values/${parameter.name}`, value, parameter.title, gesture)
      "
    />
  </section>
</template>

<style scoped>
.action {
  border-left: 4px solid;
  padding: 4px 0 8px 10px;
  margin: 8px 0;
}
p {
  margin: 2px 0 6px;
  font-size: 14px;
}
</style>
