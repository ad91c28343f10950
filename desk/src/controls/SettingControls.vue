<script setup lang="ts">
// The parameters of what listens or routes, each with both values and what moves it, like those of a picture.
import { computed } from 'vue'
import type { Parameter } from '../api/api'
import { useShow } from '../live/show'
import ParameterControl from './ParameterControl.vue'
import { useModulators } from './useModulators'

const props = defineProps<{
  /** What addresses of it begin with: “band@low”. */
  owner: string
  /** Path of its values. */
  path: string
  values: object
  parameters: Parameter[]
  /** What undo calls it. */
  name: string
}>()
const show = useShow()
const modulators = useModulators()
const address = (parameter: Parameter): string | undefined =>
  parameter.type === 'number' ? `${props.owner}.${parameter.name}` : undefined
const index = (parameter: Parameter): number | undefined => show.indices.get(address(parameter) ?? '')?.index
const values = computed(() => props.values as Record<string, number>)
const change = (parameter: Parameter, value: unknown, gesture: string): void =>
  show.set(
    `${props.path}/${parameter.name}`,
    value,
    `${props.name} ${parameter.title.toLowerCase()}`.trim(),
    gesture,
  )
</script>

<template>
  <ParameterControl
    v-for="parameter in parameters"
    :key="`${owner}.${parameter.name} ${index(parameter)}`"
    :parameter="parameter"
    :value="values[parameter.name]!"
    :target="address(parameter)"
    :index="index(parameter)"
    :modulators="modulators.get(address(parameter) ?? '')"
    @change="(value, gesture) => change(parameter, value, gesture)"
  />
</template>
