<script setup lang="ts">
// One step of a route: what comes into it, what it makes of that, and its numbers.
import { computed } from 'vue'
import type { Parameter, Part } from '../api/api'
import NumberChip from '../controls/NumberChip.vue'
import { CONTROLS } from '../controls/parameters'
import Socket from '../controls/Socket.vue'
import Trace from '../controls/Trace.vue'
import { useShow } from '../live/show'
import { Block } from '../live/wire'
import { tokens } from '../tokens'

const props = defineProps<{
  part: Part
  /** Path of the route's steps. */
  path: string
  colour: string
  /** Its position among the steps, and how many there are. */
  position: number
  count: number
  /** Where what comes into it stands in the routes block. */
  index?: number
}>()
const emit = defineEmits<{ fit: [] }>()
const show = useShow()
const kind = computed(() => show.kindOf(props.part))
const own = computed(() => `${props.path}/${props.part.id}`)
const values = computed(() => (props.part.values ?? {}) as Record<string, string | number | boolean>)
/** Named after the step, for who hears the desk: two steps may have numbers of one name. */
const parameters = computed<(Parameter & { said: string })[]>(() =>
  show.parametersOf(kind.value, props.part.values ?? {}).map((parameter) => ({
    ...parameter,
    said: parameter.title,
    title: `${props.part.kind} ${parameter.title}`,
  })),
)
/** What a signal can be carried onto. */
const address = (parameter: Parameter): string | undefined =>
  parameter.type === 'number'
    ? `step@${props.path.split('/')[2]}@${props.part.id}.${parameter.name}`
    : undefined
const set = (name: string, value: unknown, gesture = ''): void =>
  show.set(`${own.value}/values/${name}`, value, `Route ${props.part.kind}`, gesture)
const move = (to: number): void =>
  show.edit({ edit: 'move', path: own.value, index: to }, `Move ${props.part.kind}`)
const remove = (): void => show.edit({ edit: 'remove', path: own.value }, `Remove ${props.part.kind}`)
const toggleSays = computed(() => `${props.part.kind} ${props.part.on ? 'off' : 'on'}`)
const toggle = (): void => show.set(`${own.value}/on`, !props.part.on, toggleSays.value)
</script>

<template>
  <section class="step" :class="{ off: !part.on }" :data-shaper="part.id">
    <div class="row head">
      <strong v-tooltip.top="kind?.help">{{ kind?.title }}</strong><span class="grow" />
      <button
        class="tiny"
        :disabled="position === 0"
        :aria-label="`${part.kind} earlier`"
        @click="move(position - 1)"
      >
        <i class="pi pi-arrow-left" />
      </button>
      <button
        class="tiny"
        :disabled="position === count - 1"
        :aria-label="`${part.kind} later`"
        @click="move(position + 1)"
      >
        <i class="pi pi-arrow-right" />
      </button>
      <button
        v-tooltip.top="part.on ? 'Switch it off' : 'Switch it on'"
        class="tiny"
        :aria-pressed="part.on"
        :aria-label="toggleSays"
        @click="toggle"
      >
        <i class="pi" :class="part.on ? 'pi-eye' : 'pi-eye-slash'" />
      </button>
      <button class="tiny" :aria-label="`Remove ${part.kind}`" @click="remove">
        <i class="pi pi-times" />
      </button>
    </div>
    <div v-if="index !== undefined" class="pair">
      <Trace
        :key="`in-${index}`"
        :block="Block.routes"
        :index="index"
        :low="0"
        :high="1"
        :colour="tokens.soft"
        label="What comes in"
      />
      <Trace
        :key="`out-${index}`"
        :block="Block.routes"
        :index="index + 1"
        :low="0"
        :high="1"
        :colour="colour"
        label="What comes out"
      />
    </div>
    <div
      v-for="parameter in parameters"
      :key="parameter.name"
      class="row value control"
      :data-target="address(parameter)"
    >
      <span v-tooltip.top="parameter.help" class="soft">{{ parameter.said }}</span><Socket
        v-if="address(parameter)"
        :target="address(parameter)!"
        :title="parameter.title"
      />
      <span class="grow" />
      <NumberChip
        v-if="parameter.type === 'number'"
        :value="Number(values[parameter.name])"
        :low="parameter.low!"
        :high="parameter.high!"
        :label="parameter.title"
        :unit="parameter.unit"
        @change="(to, gesture) => set(parameter.name, to, gesture)"
      />
      <component
        :is="CONTROLS[parameter.type]"
        v-else
        small
        :parameter="parameter"
        :value="values[parameter.name]!"
        @change="(to: unknown, gesture: string) => set(parameter.name, to, gesture)"
      />
    </div>
    <button v-if="kind?.fits" v-tooltip.bottom="kind.fits" class="button fit" @click="emit('fit')">
      Fit to what comes
    </button>
  </section>
</template>

<style scoped>
.step {
  flex: 0 0 216px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: 8px;
  padding: 7px 9px;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.step.off {
  opacity: 0.55;
}
.head {
  gap: 0;
}
.tiny {
  background: none;
  border: 0;
  color: var(--soft);
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
  padding: 0;
}
.tiny:hover:not(:disabled) {
  color: var(--text);
}
.tiny:disabled {
  opacity: 0.3;
}
.tiny[aria-pressed='true'] {
  color: var(--hand);
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
  height: 46px;
}
.value {
  gap: 6px;
  font-size: 14px;
  min-height: 34px;
}
.value :deep(.choice) {
  max-width: 124px;
}
.fit {
  justify-content: center;
  min-height: 32px;
}
</style>
