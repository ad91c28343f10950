<script setup lang="ts">
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { useShow } from '../shared/show'
import RouteSentence from './RouteSentence.vue'

const show = useShow()
const routes = computed(() => show.document?.routes ?? [])
const adding = ref(false)
const signal = ref('')
const target = ref('')
const signals = computed(() => [...show.signals.values()].map((one) => ({ label: one.name, value: one.id })))
const targets = computed(() => [...show.slots.values()].filter((slot) => slot.parameter.type === 'number').map((slot) => ({ label: show.targetName(slot.target), value: slot.target })))

function add(): void {
  const parameter = show.slots.get(target.value)?.parameter
  const heard = show.signals.get(signal.value)
  if (!parameter || !heard) return
  let n = routes.value.length + 1
  while (routes.value.some((route) => route.id === `r${n}`)) n++
  show.edit({ edit: 'add', path: '/routes', item: { id: `r${n}`, signal: signal.value, target: target.value, low: parameter.low, high: parameter.high, shapers: heard.kind === 'hits' ? [{ id: 'smooth', kind: 'smooth' }] : [{ id: 'range', kind: 'range' }, { id: 'smooth', kind: 'smooth' }] } }, 'New route')
  adding.value = false
  signal.value = target.value = ''
}
</script>

<template>
  <div class="top row">
    <h2>Route</h2>
    <button v-if="!adding" class="button" @click="adding = true"><i class="pi pi-plus" />New route</button>
    <form v-else class="row new" @submit.prevent="add">
      <Select v-model="signal" :options="signals" option-label="label" option-value="value" placeholder="When this sounds" aria-label="Signal" />
      <span>moves</span>
      <Select v-model="target" :options="targets" option-label="label" option-value="value" placeholder="this" filter aria-label="Parameter" />
      <button class="button on" :disabled="!signal || !target">Add it</button>
      <button type="button" class="button plain" @click="adding = false">Leave it</button>
    </form>
    <span class="grow" />
    <span class="soft">{{ routes.length }} {{ routes.length === 1 ? 'route' : 'routes' }}</span>
  </div>
  <div class="list scroll">
    <RouteSentence v-for="(route, i) in routes" :key="route.id" :route="route" :place="i" />
    <p v-if="!routes.length" class="card soft">Nothing moves by itself yet. “New route” joins a sound to something you see: try Kick moves Ring · radius.</p>
    <p class="soft hint">Drag a number left or right, or click it to type. Drag the lilac lines in the left trace to fit the range to the sound.</p>
  </div>
</template>

<style scoped>
.top { min-height: 40px; margin-bottom: 8px }
.new :deep(.p-select) { min-width: 170px }
.list { flex: 1; display: flex; flex-direction: column; gap: 8px; padding-right: 4px }
.list > * { flex: none }
.list > article { flex: 1 0 auto; max-height: 190px }
.hint { margin: 4px 2px; font-size: 14px }
</style>
