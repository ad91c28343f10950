<script setup lang="ts">
// Where universes are sent, and whether they get there.
import Drawer from 'primevue/drawer'
import { computed, onMounted, ref } from 'vue'
import { api } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import WireOutput from './WireOutput.vue'

const emit = defineEmits<{ close: [] }>()
const show = useShow()
const outputs = computed(() => show.document?.light_outputs ?? [])
const cards = ref<{ value: string; label: string }[]>([])
const told = ref('')
const measured = computed(() => state.value.measured?.tick_to_wire_ms)
onMounted(async () => {
  const found = await api.wire.cards().catch(() => [])
  cards.value = [
    { value: '', label: 'The usual network card' },
    ...found.map((card) => ({ value: card.address, label: `${card.name} · ${card.address}` })),
  ]
})
const PROTOCOLS = [
  { value: 'sacn', label: 'sACN', help: 'ANSI E1.31: to everyone who listens, or to one address' },
  { value: 'art-net', label: 'Art-Net', help: 'Art-Net 4: to all, or to one address' },
] as const
const add = (protocol: 'sacn' | 'art-net'): void => {
  api.wire.addOutput(protocol).catch(show.complain)
}
async function tell(): Promise<void> {
  try {
    told.value = (await api.wire.tellRig()).file
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <Drawer visible position="right" header="On the wire" class="wire" @update:visible="emit('close')">
    <WireOutput v-for="output in outputs" :key="output.id" :output="output" :cards="cards" />
    <div class="row wrap">
      <ActMenu title="One more place" icon="pi-plus" :options="PROTOCOLS" @choose="add" />
      <span class="grow" />
      <span v-if="measured" class="soft"
        >from tick to wire <span class="num">{{ measured.p95.toFixed(1) }}</span> ms</span
      >
    </div>
    <article class="card">
      <strong>Stand-in rig</strong>
      <p class="soft">
        It draws the lamps from packets alone (its address was printed at the start). Where they hang it reads
        from a file: tell it when you have hung others.
      </p>
      <div class="row wrap">
        <button class="button" @click="tell">Tell it this rig</button>
        <a class="button" href="/api/v1/rig-file" download="rig.json">The file</a>
        <span v-if="told" class="soft">Written to {{ told }}</span>
      </div>
    </article>
  </Drawer>
</template>

<style>
.p-drawer-right .p-drawer.wire {
  width: 520px;
}
</style>

<style scoped>
.wrap {
  flex-wrap: wrap;
  margin-bottom: 10px;
}
</style>
