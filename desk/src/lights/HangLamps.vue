<script setup lang="ts">
// Any number of lamps of one kind in one go.
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { api } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import { useShow } from '../live/show'
import { useChosen } from './chosen'

const show = useShow()
const chosen = useChosen()
const visible = ref(false)
const wanted = ref({ kind: 'rgbw-lamp', count: 4, name: '', at: '', gap: 0, mode: '', pixels: 0 })
const kinds = computed(() =>
  show.kinds
    .filter((kind) => kind.family === 'fixture' && Number(kind.modes?.[0]?.channels) > 0)
    .map((kind) => ({ value: kind.kind, label: kind.title })),
)
const info = computed(() => show.kind('fixture', wanted.value.kind))
const modes = computed(() =>
  (info.value?.modes ?? []).map((mode) => ({ value: String(mode.name), label: String(mode.name) })),
)
const channels = computed(() => {
  const mode = info.value?.modes?.find((mode) => mode.name === wanted.value.mode) ?? info.value?.modes?.[0]
  const more = (wanted.value.pixels || info.value?.pixels?.[0] || 1) - (info.value?.pixels?.[0] ?? 1)
  return Number(mode?.channels ?? 0) + more * Number(mode?.a_pixel ?? 0)
})
const pixels = computed(() => (info.value?.pixels?.[1] ?? 1) > 1)
function choose(kind: string): void {
  wanted.value = { ...wanted.value, kind, mode: '', pixels: 0 }
}
function whole(name: 'count' | 'gap' | 'pixels', text: string): void {
  const value = Math.round(Number(text))
  if (Number.isFinite(value)) wanted.value[name] = value
}
async function hang(): Promise<void> {
  try {
    const { ids } = await api.lamps.hang(wanted.value)
    visible.value = false
    setTimeout(() => chosen.choose(ids), 150)
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <button class="button" @click="visible = true"><i class="pi pi-plus" />Hang lamps</button>
  <Dialog v-model:visible="visible" modal dismissable-mask header="Hang lamps" class="hang">
    <form class="form" @submit.prevent="hang">
      <Field label="How many" :value="wanted.count" @change="(text) => whole('count', text)" />
      <label class="row soft"
        >Kind
        <Choice class="grow" label="Kind of lamp" find :value="wanted.kind" :options="kinds" @choose="choose"
      /></label>
      <p class="soft help">{{ info?.help }}</p>
      <label v-if="modes.length > 1" class="row soft"
        >Mode
        <Choice
          class="grow"
          label="Mode"
          :value="wanted.mode || modes[0]!.value"
          :options="modes"
          @choose="(mode) => (wanted.mode = mode)"
      /></label>
      <Field
        v-if="pixels"
        label="Pixels each"
        :value="wanted.pixels || info!.pixels![0]!"
        @change="(text) => whole('pixels', text)"
      />
      <Field label="Names" wide :value="wanted.name" @change="(text) => (wanted.name = text)" />
      <p class="soft help"># stands for the number: “Rail ##” makes Rail 01, Rail 02 …</p>
      <Field label="First address" :value="wanted.at" @change="(text) => (wanted.at = text)" />
      <p class="soft help">As 2.17: universe, a dot, channel. Empty: behind the last lamp.</p>
      <Field label="Channels between" :value="wanted.gap" @change="(text) => whole('gap', text)" />
      <div class="row">
        <span class="soft"
          ><span class="num">{{ channels }}</span> channels each</span
        >
        <span class="grow" />
        <button type="submit" class="button on">Hang {{ wanted.count }}</button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 9px;
  width: 380px;
}
.help {
  margin: -4px 0 2px;
  font-size: 14px;
}
</style>
