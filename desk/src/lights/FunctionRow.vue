<script setup lang="ts">
// One function of all chosen lamps: the control of the first, and a range where they differ. A route that is dropped
// here moves them all.
import { computed } from 'vue'
import { api, type Lamp, type Parameter } from '../api/api'
import ParameterControl from '../controls/ParameterControl.vue'
import { digits } from '../controls/format'
import type { Value } from '../controls/parameters/parameter'
import { useShow } from '../live/show'
import { useNewest } from './useNewest'

const props = defineProps<{
  parameter: Parameter
  lamps: Lamp[]
  /** Id of the group that these lamps are, if they are one. */
  group?: string
  /** Each by as much, instead of all at a value. */
  relative: boolean
}>()
const show = useShow()
const name = computed(() => props.parameter.name)
const own = computed(() =>
  props.lamps.map((lamp) => (lamp.fixture.values as Record<string, Value>)[name.value]!),
)
const target = computed(() =>
  props.group ? `${props.group}.${name.value}` : `${props.lamps[0]!.fixture.id}.${name.value}`,
)
const targets = computed(() =>
  props.group ? target.value : props.lamps.map((lamp) => `${lamp.fixture.id}.${name.value}`).join(' '),
)
const spread = computed(() => {
  const numbers = own.value.filter((value): value is number => typeof value === 'number')
  if (numbers.length < 2) return new Set(own.value).size > 1 ? 'they differ' : ''
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)]
  if (high - low < 1e-6) return ''
  const { low: from, high: to } = props.parameter
  return `${digits(low, from ?? 0, to ?? 1)} to ${digits(high, from ?? 0, to ?? 1)}`
})
const modulators = computed(() => {
  const parts = props.lamps.map((lamp) => lamp.fixture.id)
  const groups = (show.document?.groups ?? []).filter((group) => group.members?.includes(props.lamps[0]!.id))
  const addresses = new Set(
    [...parts, ...groups.map((group) => group.id)].map((part) => `${part}.${name.value}`),
  )
  const routes = (show.document?.routes ?? []).filter((route) =>
    route.targets.some((to) => addresses.has(to)),
  )
  return routes.map((route) => ({
    name: show.signals.get(route.signal)?.title ?? 'gone',
    colour: show.colour(route.signal),
    why: '',
  }))
})
const parked = computed(() => props.lamps.filter((lamp) => name.value in (lamp.parked ?? {})).length)
const { send } = useNewest(show.complain)
function change(value: Value, gesture: string): void {
  const ids = props.lamps.map((lamp) => lamp.id)
  // How much that is, is known when it goes: what went before has changed the value by then.
  const to = (): { value?: Value; by?: number } =>
    props.relative && typeof value === 'number' ? { by: value - (own.value[0] as number) } : { value }
  send(() => api.lamps.set(ids, name.value, to(), gesture))
}
function park(): void {
  const ids = props.lamps.map((lamp) => lamp.id)
  api.lamps.park(ids, name.value, parked.value ? null : own.value[0]).catch(show.complain)
}
</script>

<template>
  <div class="function" :data-function="name">
    <ParameterControl
      :parameter="parameter"
      :value="own[0]!"
      :target="target"
      :data-target="targets"
      :index="show.indices.get(`${lamps[0]!.fixture.id}.${name}`)?.index"
      :modulators="modulators"
      @change="change"
    />
    <div class="row more">
      <span v-if="spread" class="soft num">{{ spread }}</span>
      <span class="grow" />
      <button
        v-tooltip.left="'Sends it at this value whatever else is wanted'"
        class="mini"
        :class="{ on: parked }"
        :aria-pressed="parked > 0"
        @click="park"
      >
        {{ parked ? 'parked' : 'park' }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.function {
  padding: 3px 2px 1px;
}
.more {
  height: 18px;
  font-size: 13px;
  margin-top: -3px;
}
.mini {
  background: none;
  border: 0;
  color: var(--soft);
  cursor: pointer;
  height: 20px;
  padding: 0 4px;
  opacity: 0.65;
}
.mini:hover,
.mini:focus-visible {
  opacity: 1;
}
.mini.on {
  color: var(--bolt);
  opacity: 1;
}
</style>
