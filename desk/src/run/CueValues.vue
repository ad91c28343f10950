<script setup lang="ts">
// Hand values that a cue sets, each over a time of its own.
import { computed } from 'vue'
import type { Cue } from '../api/api'
import Choice from '../controls/Choice.vue'
import { referenceOptions } from '../controls/references'
import { useShow } from '../live/show'

type Row = NonNullable<Cue['values']>[number]
const props = defineProps<{ cue: Cue }>()
const emit = defineEmits<{ change: [rows: Row[]] }>()
const show = useShow()
const rows = computed(() => props.cue.values ?? [])
const MOST_SHOWN = 40
const UNITS = [
  { value: 'ms', label: 'ms' },
  { value: 'beats', label: 'beats' },
  { value: 'bars', label: 'bars' },
] as const
const put = (at: number, row: Row): void =>
  emit(
    'change',
    rows.value.map((old, i) => (i === at ? row : old)),
  )
const drop = (at: number): void =>
  emit(
    'change',
    rows.value.filter((_, i) => i !== at),
  )
function add(target: string): void {
  const parameter = show.indices.get(target)?.parameter
  if (parameter)
    emit('change', [...rows.value, { target, value: parameter.default, over: { amount: 0, unit: 'beats' } }])
}
function set(at: number, text: string): void {
  const row = rows.value[at]!
  const type = show.indices.get(row.target)?.parameter.type
  const values: Record<string, unknown> = { number: Number(text), toggle: text === 'true' || text === '1' }
  put(at, { ...row, value: type && type in values ? values[type] : text })
}
const over = (at: number, amount: number): void => {
  const row = rows.value[at]!
  put(at, { ...row, over: { ...row.over!, amount } })
}
const unit = (at: number, to: 'ms' | 'beats' | 'bars'): void => {
  const row = rows.value[at]!
  put(at, { ...row, over: { ...row.over!, unit: to } })
}
</script>

<template>
  <div v-for="(row, i) in rows.slice(0, MOST_SHOWN)" :key="row.target" class="value">
    <span class="grow">{{ show.targetName(row.target) }}</span>
    <button class="button plain" aria-label="Not this value" @click="drop(i)">
      <i class="pi pi-times" />
    </button>
    <div class="row">
      <input
        class="num"
        :value="String(row.value)"
        :aria-label="`Value of ${show.targetName(row.target)}`"
        @change="set(i, ($event.target as HTMLInputElement).value)"
      />
      over
      <input
        class="num short"
        type="number"
        min="0"
        :value="row.over?.amount ?? 0"
        :aria-label="`Time of ${show.targetName(row.target)}`"
        @change="over(i, Number(($event.target as HTMLInputElement).value))"
      />
      <Choice
        :value="row.over?.unit ?? 'beats'"
        :options="UNITS"
        label="Unit"
        @choose="(to) => unit(i, to)"
      />
    </div>
  </div>
  <span v-if="rows.length > MOST_SHOWN" class="soft">and {{ rows.length - MOST_SHOWN }} more</span>
  <Choice
    value=""
    :options="referenceOptions(show, 'parameter')"
    label="Add a value"
    placeholder="+ value"
    find
    @choose="add"
  />
</template>

<style scoped>
.value {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  border-left: 4px solid var(--hand);
  padding-left: 8px;
}
input {
  width: 90px;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  padding: 0 8px;
}
.short {
  width: 70px;
}
</style>
