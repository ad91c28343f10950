<script setup lang="ts">
// One place that universes are sent to.
import { computed } from 'vue'
import type { LightOutput } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import NameField from '../controls/NameField.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'

const props = defineProps<{ output: LightOutput; cards: { value: string; label: string }[] }>()
const show = useShow()
const path = computed(() => `/light_outputs/${props.output.id}`)
const now = computed(() => state.value.lights?.outputs?.[props.output.id!])
const everyone = computed(() => (props.output.protocol === 'sacn' ? 'multicast' : 'broadcast'))
const put = (name: string, value: unknown, title: string): void =>
  show.set(`${path.value}/${name}`, value, title)
function number(name: string, text: string, title: string): void {
  const value = Number(text)
  if (Number.isFinite(value)) put(name, value, title)
}
/** More than an output takes: what is too much is refused by the server. */
const MOST = 600
function universes(text: string): void {
  const found = text.split(/[\s,]+/).flatMap((part) => {
    const [from, to] = part.split('-').map(Number)
    if (!part || !from) return []
    return Array.from(
      { length: Math.min(MOST, Math.max(1, (to ?? from) - from + 1)) },
      (_, index) => from + index,
    )
  })
  put('universes', found, 'Universes')
}
</script>

<template>
  <article class="card" :data-output="output.id">
    <div class="row">
      <NameField
        class="grow"
        label="Name of this place"
        :value="output.name ?? ''"
        @change="(name) => put('name', name, 'Name of a light output')"
      />
      <span class="soft">{{ output.protocol === 'sacn' ? 'sACN' : 'Art-Net' }}</span>
      <button
        class="button"
        :class="{ on: output.on }"
        @click="put('on', !output.on, output.on ? 'Stop sending' : 'Send')"
      >
        {{ output.on ? 'Sending' : 'Not sending' }}
      </button>
      <button
        class="tiny"
        :aria-label="`Remove ${output.name}`"
        @click="show.edit({ edit: 'remove', path }, 'Remove light output')"
      >
        <i class="pi pi-trash" />
      </button>
    </div>
    <p v-if="now?.fault" class="bad" role="alert">{{ now.fault.text }}</p>
    <p v-else-if="now" class="soft">
      <span class="num">{{ now.a_second.toFixed(0) }}</span> packets a second,
      <span class="num">{{ now.sent }}</span> in all, universes {{ now.universes.join(', ') || 'none' }}
    </p>
    <div class="row wrap">
      <Field
        label="To"
        wide
        :value="output.host ?? ''"
        @change="(text) => put('host', text.trim(), 'Light network')"
      />
      <span v-if="!output.host" class="soft">{{ everyone }}</span>
      <Field label="Port" :value="output.port ?? 0" @change="(text) => number('port', text, 'Port')" />
    </div>
    <div class="row wrap">
      <Choice
        label="Network card"
        :value="output.interface ?? ''"
        :options="cards"
        @choose="(card) => put('interface', card, 'Network card')"
      />
      <Field label="A second" :value="output.rate ?? 44" @change="(text) => number('rate', text, 'Rate')" />
      <Field
        v-if="output.protocol === 'sacn'"
        label="Priority"
        :value="output.priority ?? 100"
        @change="(text) => number('priority', text, 'Priority')"
      />
    </div>
    <div class="row wrap">
      <Field label="Universes" wide :value="(output.universes ?? []).join(', ')" @change="universes" /><span
        v-if="!output.universes?.length"
        class="soft"
        >all</span
      >
      <Field
        label="Shifted by"
        :value="output.shift ?? 0"
        @change="(text) => number('shift', text, 'Shift')"
      />
    </div>
  </article>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin-bottom: 10px;
}
.wrap {
  flex-wrap: wrap;
}
.bad {
  color: var(--alarm);
}
p {
  margin: 0;
}
.tiny {
  min-width: 34px;
  min-height: 34px;
  background: none;
  border: 0;
  color: var(--soft);
  cursor: pointer;
}
</style>
