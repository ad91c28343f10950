<script setup lang="ts">
// All parameters of one part, grouped, each with both values and what moves it. Made from the kind's
// declaration.
import { computed, reactive } from 'vue'
import type { Part } from '../api/api'
import ParameterControl from './ParameterControl.vue'
import { useShow } from '../live/show'
import { useModulators } from './useModulators'

const props = defineProps<{ part: Part; path: string; columns?: number }>()
const show = useShow()
/** What is looked for first, so that it is never folded: colours, and which sound is drawn. */
const FIRST = ['colour', 'ramp', 'input']
/** Types that have a place in the layout. */
const LIVE = ['number', 'colour', 'choice', 'toggle']
const groups = computed(() => {
  const found = new Map<string, NonNullable<ReturnType<typeof show.kind>>['parameters']>()
  // What the layout says of a parameter goes before what its kind does: an own shader's text says what there
  // is.
  const known = [...show.indices.values()].some((entry) => entry.part === props.part.id)
  const stated = show.parametersOf(show.kindOf(props.part), props.part.values ?? {}).flatMap((parameter) => {
    const entry = show.indices.get(`${props.part.id}.${parameter.name}`)
    if (entry) return [{ ...parameter, ...entry.parameter }]
    return known && LIVE.includes(parameter.type) ? [] : [parameter]
  })
  for (const parameter of stated) {
    const group = parameter.group ?? ''
    found.set(group, [...(found.get(group) ?? []), parameter])
  }
  return [...found]
})
/** Groups beyond the first two are closed until something in them is moved or is not as it was at first. */
const chosen = reactive<Record<string, boolean>>({})
function opens(group: string, parameters: (typeof groups.value)[number][1]): boolean {
  if (group in chosen) return chosen[group]!
  const values = (props.part.values ?? {}) as Record<string, unknown>
  return (
    groups.value.filter(([name]) => name).findIndex(([name]) => name === group) < 2 ||
    parameters.some((parameter) => FIRST.includes(parameter.of || parameter.type)) ||
    parameters.some(
      (parameter) =>
        values[parameter.name] !== parameter.default ||
        modulators.value.has(`${props.part.id}.${parameter.name}`),
    )
  )
}
const modulators = useModulators()
function remember(group: string, event: Event): void {
  if (group) chosen[group] = (event.target as HTMLDetailsElement).open
}
function change(name: string, title: string, value: unknown, gesture: string): void {
  show.set(
    `${props.path}/values/${name}`,
    value,
    `${show.partNames.get(props.part.id) ?? ''} ${title.toLowerCase()}`.trim(),
    gesture,
  )
}
</script>

<template>
  <component
    :is="group ? 'details' : 'section'"
    v-for="[group, parameters] in groups"
    :key="group"
    class="group"
    :open="group ? opens(group, parameters) : undefined"
    @toggle="remember(group, $event)"
  >
    <summary v-if="group" class="soft">{{ group }}</summary>
    <div class="grid" :style="{ gridTemplateColumns: `repeat(${columns ?? 2}, minmax(0, 1fr))` }">
      <ParameterControl
        v-for="parameter in parameters"
        :key="`${part.id}.${parameter.name}`"
        :parameter="parameter"
        :value="(part.values as Record<string, number>)[parameter.name]!"
        :target="`${part.id}.${parameter.name}`"
        :path="path"
        :index="show.indices.get(`${part.id}.${parameter.name}`)?.index"
        :modulators="modulators.get(`${part.id}.${parameter.name}`)"
        @change="(value, gesture) => change(parameter.name, parameter.title, value, gesture)"
      />
    </div>
  </component>
</template>

<style scoped>
.group {
  margin-bottom: 8px;
}
summary {
  font-size: 13px;
  font-weight: 500;
  margin: 0 0 2px;
  border-bottom: 1px solid var(--edge);
  cursor: pointer;
  min-height: 24px;
}
.grid {
  display: grid;
  gap: 4px 18px;
}
</style>
