<script setup lang="ts">
// All 512 channels of a universe as they are sent: value, lamp, function, and who sets it.
import Drawer from 'primevue/drawer'
import { computed, ref, watch } from 'vue'
import { api, type ChannelRow } from '../api/api'
import Choice from '../controls/Choice.vue'
import Toggle from '../controls/Toggle.vue'
import { layout } from '../live/live'
import { useShow } from '../live/show'
import { useFrames } from '../live/useFrames'
import { Block, type Packet } from '../live/wire'

const CHANNELS = 512
const emit = defineEmits<{ close: [] }>()
const show = useShow()
const universes = computed(() => layout.value?.universes ?? [])
const universe = ref(universes.value[0] ?? 1)
const rows = ref<ChannelRow[]>([])
const picked = ref(1)
const cells = ref<HTMLElement[]>([])
const parked = computed(() => show.document?.lights?.parked ?? {})
const owners = computed(() => {
  const found = new Map<number, ChannelRow[]>()
  for (const row of rows.value) found.set(row.channel, [...(found.get(row.channel) ?? []), row])
  return found
})
const isPrivate = computed(() => (show.document?.lights?.private ?? []).includes(universe.value))
watch(
  [universe, () => show.document],
  async () => {
    rows.value = await api.wire.sheet(universe.value).catch(() => [])
  },
  { immediate: true },
)
const value = ref(0)
function paint(packet: Packet): void {
  const block = packet.blocks.get(Block.channels) as Uint8Array | undefined
  const at = universes.value.indexOf(universe.value) * CHANNELS
  if (!block || at < 0) return
  value.value = block[at + picked.value - 1] ?? 0
  cells.value.forEach((cell, index) => {
    const text = String(block[at + index] ?? 0)
    if (cell.textContent === text) return
    cell.textContent = text
    cell.style.setProperty('--share', `${(Number(text) / 255) * 100}%`)
  })
}
useFrames([Block.channels], { paint })
function park(to: number | null): void {
  const rest = { ...parked.value }
  delete rest[`${universe.value}.${picked.value}`]
  const now =
    to === null ? rest : { ...rest, [`${universe.value}.${picked.value}`]: Math.min(255, Math.max(0, to)) }
  show.set('/lights/parked', now, to === null ? 'Channel no longer parked' : 'Park a channel')
}
function keep(on: boolean): void {
  const others = (show.document?.lights?.private ?? []).filter((number) => number !== universe.value)
  show.set('/lights/private', on ? [...others, universe.value] : others, 'Private universe')
}
const isParked = computed(() => `${universe.value}.${picked.value}` in parked.value)
const who = (channel: number): string => owners.value.get(channel)?.[0]?.by ?? ''
</script>

<template>
  <Drawer visible position="bottom" header="Channels" class="sheet" @update:visible="emit('close')">
    <div class="row">
      <Choice
        label="Universe"
        :value="universe"
        :options="universes.map((number) => ({ value: number, label: `Universe ${number}` }))"
        @choose="(number) => (universe = number)"
      />
      <label class="row soft"
        ><Toggle :value="isPrivate" label="Private: not sent" @change="keep" />private: nothing of it is
        sent</label
      >
      <span class="grow" />
      <span class="num">{{ universe }}.{{ picked }}</span>
      <strong v-for="row in owners.get(picked) ?? []" :key="row.lamp + row.function"
        >{{ row.name }} · {{ row.function }} <span class="soft">set by {{ row.by }}</span></strong
      >
      <span v-if="!owners.get(picked)" class="soft">nobody’s</span>
      <span class="num value">{{ value }}</span>
      <button class="button" :class="{ on: isParked }" @click="park(isParked ? null : value)">
        {{ isParked ? 'Parked' : 'Park' }}
      </button>
      <button class="button" @click="park(255)">Full</button>
      <button class="button" @click="park(0)">Zero</button>
    </div>
    <div class="grid num" role="grid" :aria-label="`Channels of universe ${universe}`">
      <button
        v-for="channel in CHANNELS"
        :key="channel"
        class="cell"
        :class="{
          own: owners.has(channel),
          twice: (owners.get(channel)?.length ?? 0) > 1,
          picked: picked === channel,
          parked: who(channel) === 'parked',
        }"
        :aria-label="`Channel ${channel}`"
        @click="picked = channel"
      >
        <small>{{ channel }}</small><b ref="cells">0</b>
      </button>
    </div>
  </Drawer>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(32, minmax(0, 1fr));
  gap: 2px;
  margin-top: 10px;
}
.cell {
  display: grid;
  background: var(--ground);
  border: 1px solid transparent;
  border-radius: 3px;
  padding: 0 1px;
  cursor: pointer;
  color: var(--edge-strong);
}
.cell small {
  font-size: 10px;
  opacity: 0.8;
}
.cell b {
  font-weight: 400;
  font-size: 13px;
  background: linear-gradient(
    to right,
    color-mix(in srgb, var(--hand) 40%, transparent) var(--share, 0%),
    transparent 0
  );
}
.cell.own {
  color: var(--text);
  background: var(--raised);
}
.cell.twice {
  border-color: var(--alarm);
}
.cell.parked {
  border-color: var(--bolt);
}
.cell.picked {
  outline: 2px solid var(--bolt);
}
.value {
  font-size: 18px;
  min-width: 4ch;
  text-align: right;
}
</style>
