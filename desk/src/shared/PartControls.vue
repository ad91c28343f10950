<script setup lang="ts">
// All parameters of one part, grouped, each with both values and what moves it. Made from the kind's declaration.
import { computed } from 'vue'
import type { Part } from './api'
import { state } from './live'
import ParameterControl from './ParameterControl.vue'
import { useShow } from './show'
import { signalColour } from './tokens'

const props = defineProps<{ part: Part; path: string; columns?: number }>()
const show = useShow()
const groups = computed(() => {
  const found = new Map<string, NonNullable<ReturnType<typeof show.kind>>['parameters']>()
  for (const parameter of show.kind(props.part.kind)?.parameters ?? []) {
    const group = parameter.group ?? ''
    found.set(group, [...(found.get(group) ?? []), parameter])
  }
  return [...found]
})
function movers(name: string) {
  const routes = (show.document?.routes ?? []).filter((route) => route.target === `${props.part.id}.${name}`)
  return routes.map((route) => {
    const signal = show.signals.get(route.signal)
    return { name: signal?.name ?? 'gone', colour: signalColour(signal?.pitch), why: state.value.why?.[route.id] ?? '' }
  })
}
function change(name: string, title: string, value: unknown, gesture: string): void {
  show.set(`${props.path}/values/${name}`, value, `${show.partNames.get(props.part.id) ?? ''} ${title.toLowerCase()}`.trim(), gesture)
}
</script>

<template>
  <section v-for="[group, parameters] in groups" :key="group" class="group">
    <h3 v-if="group" class="soft">{{ group }}</h3>
    <div class="grid" :style="{ gridTemplateColumns: `repeat(${columns ?? 2}, minmax(0, 1fr))` }">
      <ParameterControl
        v-for="parameter in parameters" :key="`${part.id}.${parameter.name}`" :parameter="parameter" :value="(part.values as Record<string, number>)[parameter.name]!"
        :index="show.slots.get(`${part.id}.${parameter.name}`)?.index" :movers="movers(parameter.name)" @change="(value, gesture) => change(parameter.name, parameter.title, value, gesture)"
      />
    </div>
  </section>
</template>

<style scoped>
.group { margin-bottom: 8px }
h3 { font-size: 13px; font-weight: 500; margin: 0 0 2px; border-bottom: 1px solid var(--edge) }
.grid { display: grid; gap: 4px 18px }
</style>
