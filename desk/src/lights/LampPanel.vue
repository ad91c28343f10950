<script setup lang="ts">
// The chosen lamps: what they can do, one row a function however many they are; who they are; hands over them.
import { computed, onUnmounted, ref } from 'vue'
import { api, type Parameter } from '../api/api'
import Toggle from '../controls/Toggle.vue'
import { giveBack, hold, identify } from '../live/live'
import { useShow } from '../live/show'
import { useChosen } from './chosen'
import CurveView from './CurveView.vue'
import FunctionRow from './FunctionRow.vue'
import LampFacts from './LampFacts.vue'
import PresetList from '../controls/PresetList.vue'

const AGAIN_MS = 300
const show = useShow()
const chosen = useChosen()
const relative = ref(false)
const facts = ref(false)
const ids = computed(() => chosen.chosen.map((lamp) => lamp.id))
/** Functions by name, with the lamps that have them, in the order in which they are met first. */
const functions = computed(() => {
  const found = new Map<string, { parameter: Parameter; lamps: typeof chosen.chosen }>()
  for (const lamp of chosen.chosen) {
    for (const parameter of show.kindOf(lamp.fixture)?.parameters ?? []) {
      const row = found.get(parameter.name) ?? { parameter, lamps: [] }
      row.lamps.push(lamp)
      found.set(parameter.name, row)
    }
  }
  const order = ['level', 'colour']
  return [...found.values()].sort((a, b) => rank(order, a.parameter.name) - rank(order, b.parameter.name))
})
const rank = (order: string[], name: string): number =>
  order.includes(name) ? order.indexOf(name) : order.length
const title = computed(() => {
  if (chosen.group) return chosen.group.name
  return chosen.chosen.length === 1 ? chosen.chosen[0]!.name : `${chosen.chosen.length} lamps`
})
const only = computed(() => (chosen.chosen.length === 1 ? chosen.chosen[0]! : null))
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
let timer = 0
function shine(on: boolean): void {
  clearInterval(timer)
  identify(on ? ids.value : [])
  if (on) timer = window.setInterval(() => identify(ids.value), AGAIN_MS)
}
const fogs = computed(() => chosen.chosen.filter((lamp) => 'fog' in lamp.fixture.values!))
let blowing = 0
/** Said again and again: when nobody says it any more, the fog ends by itself. */
function blow(on: boolean): void {
  clearInterval(blowing)
  const each = (what: (target: string) => void): void =>
    fogs.value.forEach((lamp) => what(`${lamp.fixture.id}.fog`))
  if (!on) {
    each((target) => giveBack(target, 0))
    return
  }
  each((target) => hold(target))
  blowing = window.setInterval(() => each((target) => hold(target)), AGAIN_MS)
}
onUnmounted(() => {
  shine(false)
  if (blowing) blow(false)
})
async function group(): Promise<void> {
  try {
    const { id } = await api.lamps.group(ids.value)
    setTimeout(() => chosen.open('group', id), 150)
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <div class="row head">
    <strong v-if="!chosen.group" class="title">{{ title }}</strong>
    <span v-if="only" class="num soft">{{ only.universe }}.{{ only.address }}</span>
    <span class="grow" />
    <button class="button small" :class="{ on: facts }" @click="facts = !facts">Where, what</button>
  </div>
  <div class="row tools">
    <button
      class="button small"
      aria-label="Identify: they shine white while this is held"
      @pointerdown="shine(true)"
      @pointerup="shine(false)"
      @pointerleave="shine(false)"
      @keydown.space.prevent="shine(true)"
      @keyup.space="shine(false)"
    >
      Identify
    </button>
    <button class="button small" @click="doing(api.lamps.home(ids))">Home</button>
    <button v-if="!chosen.group && ids.length > 1" class="button small" @click="group">Make a group</button>
    <span class="grow" />
    <label v-if="ids.length > 1" class="row soft by"
      ><Toggle :value="relative" label="Each by as much" @change="(on) => (relative = on)" />each by as
      much</label
    >
  </div>
  <button
    v-if="fogs.length"
    class="button fog"
    @pointerdown="blow(true)"
    @pointerup="blow(false)"
    @pointerleave="blow(false)"
  >
    Fog while this is held
  </button>
  <LampFacts v-if="facts" :lamps="chosen.chosen" />
  <FunctionRow
    v-for="row in functions"
    :key="`${ids.join()} ${row.parameter.name}`"
    :parameter="row.parameter"
    :lamps="row.lamps"
    :group="chosen.group?.id"
    :relative="relative"
  />
  <template v-if="only">
    <details>
      <summary class="soft">How it answers: its curve</summary>
      <CurveView :part="only.answer!" :path="`/lamps/${only.id}/answer`" :lamps="[only]" />
    </details>
    <details>
      <summary class="soft">Presets</summary>
      <PresetList scope="part" :address="only.fixture.id" />
    </details>
  </template>
</template>

<style scoped>
.head {
  min-height: 34px;
  gap: 8px;
}
.title {
  font-size: 16px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.tools {
  gap: 6px;
  margin-bottom: 4px;
  flex-wrap: wrap;
}
.by {
  gap: 6px;
  font-size: 14px;
}
.fog {
  width: 100%;
  min-height: 44px;
  justify-content: center;
}
.small {
  min-height: 32px;
  padding: 0 9px;
  font-size: 14px;
}
summary {
  min-height: 32px;
  padding-top: 6px;
  cursor: pointer;
}
</style>
