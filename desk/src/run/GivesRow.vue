<script setup lang="ts">
// What is given to others: lights and places to controllers, the tempo as MIDI clock and as OSC.
import { computed } from 'vue'
import Field from '../controls/Field.vue'
import Toggle from '../controls/Toggle.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'

const show = useShow()
const control = computed(() => show.document!.control!)
const ports = computed(() => [
  ...new Set([...(state.value.ports?.controllers ?? []), ...(control.value.clock_to ?? [])]),
])
const clock = computed(() => state.value.ports?.clock)
const set = (name: string, value: unknown): void => show.set(`/control/${name}`, value, 'Controllers')
function turn(port: string): void {
  const now = control.value.clock_to ?? []
  set('clock_to', now.includes(port) ? now.filter((other) => other !== port) : [...now, port])
}
</script>

<template>
  <div class="row gives">
    <Toggle
      :value="control.feedback ?? true"
      label="Lights and places go back"
      @change="(on) => set('feedback', on)"
    />
    <span>Lights and places go back to controllers</span>
    <Field
      label="OSC goes to"
      wide
      :value="control.osc_to ?? ''"
      @change="(to) => set('osc_to', to.trim())"
    />
    <Toggle
      :value="control.tempo_by_osc ?? false"
      label="Tempo by OSC"
      @change="(on) => set('tempo_by_osc', on)"
    />
    <span>tempo too</span>
    <span class="soft">MIDI clock to</span>
    <button
      v-for="port in ports"
      :key="port"
      class="button"
      :class="{ on: (control.clock_to ?? []).includes(port) }"
      :aria-pressed="(control.clock_to ?? []).includes(port)"
      @click="turn(port)"
    >
      {{ port }}
    </button>
    <span v-if="!ports.length" class="soft">no port of the engine’s machine yet</span>
    <span v-if="clock?.p99_ms !== undefined && control.clock_to?.length" class="num soft"
      >{{ clock.sent }} ticks, off by {{ clock.p99_ms }} ms at most (99 of 100)</span
    >
  </div>
</template>

<style scoped>
.gives {
  flex-wrap: wrap;
  gap: 8px;
  border-top: 1px solid var(--edge);
  padding-top: 8px;
}
</style>
