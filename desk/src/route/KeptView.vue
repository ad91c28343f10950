<script setup lang="ts">
// Everything that is kept in this show: presets of every place, and saved steps.
import { ref, watch } from 'vue'
import { api, type KeptPreset } from '../api/api'
import { useShow } from '../live/show'

const show = useShow()
const rows = ref<KeptPreset[]>([])
let soon = 0
const load = async (): Promise<void> => {
  rows.value = await api.allPresets().catch(() => [])
}
watch(
  () => show.document,
  () => {
    clearTimeout(soon)
    soon = window.setTimeout(load, rows.value.length ? 300 : 0)
  },
  { immediate: true },
)
const SCOPES: Record<string, string> = {
  parameter: 'Parameters',
  part: 'Sources, effects, lamps and modulators',
  layer: 'Layers',
  look: 'Looks',
}
const GONE = 'what is gone'
function where({ scope, address }: KeptPreset): string {
  const looks = show.document?.looks ?? []
  switch (scope) {
    case 'parameter':
      return show.targetName(address)
    case 'part':
      return show.partNames.get(address) ?? GONE
    case 'look':
      return looks.find((look) => look.id === address)?.name ?? GONE
    default:
      return looks.flatMap((look) => look.layers ?? []).find((layer) => layer.id === address)?.name ?? GONE
  }
}
const doing = (what: Promise<unknown>): Promise<void> => what.then(load).catch(show.complain)
const users = (chain: string): number =>
  (show.document?.routes ?? []).filter((route) => route.chain === chain).length
</script>

<template>
  <div class="list scroll">
    <template v-for="(title, scope) in SCOPES" :key="scope">
      <section v-if="rows.some((row) => row.scope === scope)" class="card">
        <h3 class="soft">{{ title }}</h3>
        <div v-for="row in rows.filter((row) => row.scope === scope)" :key="row.id" class="row">
          <button class="button" :disabled="!!row.fault" @click="doing(api.recallPreset(row.id, {}))">
            {{ row.name }}<i v-if="row.changed" class="dot" aria-label="changed" />
          </button>
          <span class="soft">{{ where(row) }}</span><span v-if="row.fault" class="bad" role="status">{{
            row.fault.text
          }}</span
          ><span class="grow" />
          <button class="button" :class="{ plain: !row.fault }" @click="doing(api.removePreset(row.id))">
            Remove
          </button>
        </div>
      </section>
    </template>
    <section v-if="show.document?.chains?.length" class="card">
      <h3 class="soft">Saved steps</h3>
      <div v-for="chain in show.document.chains" :key="chain.id" class="row">
        <strong>{{ chain.name }}</strong><span class="soft">{{
          chain.shapers?.map((shaper) => shaper.kind).join(', ')
        }}</span
        ><span class="grow" /><span class="soft">{{
          users(chain.id) === 1 ? 'one route' : `${users(chain.id)} routes`
        }}</span
        ><button
          class="button plain"
          @click="show.edit({ edit: 'remove', path: `/chains/${chain.id}` }, 'Remove saved steps')"
        >
          Remove
        </button>
      </div>
    </section>
    <p v-if="!rows.length && !show.document?.chains?.length" class="card soft">
      Nothing is kept yet. A parameter's socket, an effect, a layer and a look each have “Keep as…”; a route's
      steps have “Save”.
    </p>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.list > * {
  flex: none;
}
h3 {
  font-size: 14px;
  font-weight: 500;
  margin: 0 0 6px;
}
.card {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.bad {
  color: var(--alarm);
}
.dot {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--bolt);
}
</style>
