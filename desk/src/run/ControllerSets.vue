<script setup lang="ts">
// A controller's mappings as a set: kept by its name for every show, given away and taken as a file.
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import { api, type MappingSet } from '../api/api'
import FilePicker from '../controls/FilePicker.vue'
import { useShow } from '../live/show'

const show = useShow()
const menu = ref<InstanceType<typeof Menu>>()
const kept = ref<string[]>([])
const names = computed(() => [
  ...new Set((show.document?.mappings ?? []).map((mapping) => mapping.controller ?? '')),
])
const called = (name: string): string => name || 'any controller'
async function save(name: string): Promise<void> {
  const set = await api.mappings.set(name)
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([JSON.stringify(set, null, 1)], { type: 'application/json' }))
  link.download = `${called(name).replace(/[^\w-]+/g, '-')}.mappings.json`
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
const items = computed(() => [
  ...names.value.flatMap((name) => [
    { label: `Keep those of ${called(name)} for every show`, command: () => doing(api.mappings.keep(name)) },
    { label: `Save those of ${called(name)} as a file`, command: () => doing(save(name)) },
  ]),
  ...kept.value.map((name) => ({
    label: `Take what was kept of ${called(name)}`,
    command: () => doing(api.mappings.takeKept(name)),
  })),
])
async function open(event: Event): Promise<void> {
  kept.value = await api.mappings.kept().catch(() => [])
  menu.value?.toggle(event)
}
async function take(files: File[]): Promise<void> {
  try {
    for (const file of files) await api.mappings.take(JSON.parse(await file.text()) as MappingSet)
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <button class="button" aria-haspopup="menu" @click="open">Sets<i class="pi pi-chevron-down" /></button>
  <Menu ref="menu" popup :model="items" aria-label="Sets of mappings" />
  <FilePicker
    title="From a file"
    accept="application/json,.json"
    label="Mappings from a file"
    @files="take"
  />
</template>
