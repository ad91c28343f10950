<script setup lang="ts">
// Everything dark with one press; lamps alone or pictures alone from the menu beside it.
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import { learnsAction } from '../controls/learns'
import { useShow } from '../live/show'

const show = useShow()
const menu = ref<InstanceType<typeof Menu>>()
const now = computed(() => show.document?.blackout ?? 'off')
const SAYS = { off: 'Blackout', all: 'Blackout', lights: 'Lights dark', pictures: 'Pictures dark' } as const
const CHOICES = [
  ['all', 'Lights and pictures'],
  ['lights', 'Lights alone'],
  ['pictures', 'Pictures alone'],
  ['off', 'Nothing: all lit'],
] as const
const items = computed(() =>
  CHOICES.map(([value, label]) => ({
    label,
    icon: value === now.value ? 'pi pi-fw pi-check' : 'pi pi-fw',
    command: () => show.set('/blackout', value, 'Blackout'),
  })),
)
const dark = computed(() => now.value !== 'off')
</script>

<template>
  <span class="pair">
    <button
      class="button danger main"
      :class="{ on: dark }"
      :aria-pressed="dark"
      v-bind="learnsAction('blackout', { what: 'all' })"
      @click="show.toggleBlackout()"
    >
      {{ SAYS[now] }}</button><button
      class="button danger more"
      :class="{ on: dark }"
      aria-haspopup="menu"
      aria-label="What goes dark"
      @click="menu?.toggle($event)"
    >
      <i class="pi pi-chevron-down" />
    </button>
    <Menu ref="menu" popup :model="items" aria-label="What goes dark" />
  </span>
</template>

<style scoped>
.pair {
  display: inline-flex;
}
.main {
  border-radius: 7px 0 0 7px;
}
.more {
  border-radius: 0 7px 7px 0;
  border-left: 0;
  padding: 0 8px;
}
</style>
