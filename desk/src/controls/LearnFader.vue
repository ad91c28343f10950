<script setup lang="ts">
// Which control of a controller moves a number: learnt by moving it, let go with one click.
import { computed, onMounted } from 'vue'
import { state } from '../live/live'
import { hearMidi } from '../live/midi'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import { learn } from './learns'

const props = defineProps<{ /** Path in the document. */ target: string; title: string }>()
const show = useShow()
const mapping = computed(() =>
  show.document?.mappings?.find((mapping) => mapping.does === 'value' && mapping.target === props.target),
)
const learning = computed(() => surface.value.learning?.target === props.target)
const waits = computed(() => !!mapping.value && mapping.value.id in surface.value.waits)
const fault = computed(() => state.value.ports?.fault?.text ?? '')
onMounted(() => void hearMidi())
function forget(): void {
  if (mapping.value) show.edit({ edit: 'remove', path: `/mappings/${mapping.value.id}` }, 'Controller')
}
const ask = (): void => learn({ does: learning.value ? '' : 'value', target: props.target })
</script>

<template>
  <div v-if="mapping && !learning" class="row bound">
    <span class="grow"
      ><i class="pi pi-sliders-v" aria-hidden="true" /> <span class="num">{{ mapping.source }}</span></span
    >
    <button class="button plain" :aria-label="`${title}: let the fader go`" @click="forget">
      <i class="pi pi-times" />
    </button>
  </div>
  <button v-else class="button" :class="{ on: learning }" @click="ask">
    <i class="pi pi-sliders-v" />{{ learning ? 'Now move a fader…' : `${title} on a fader` }}
  </button>
  <span v-if="waits" class="soft small" role="status">Move the fader past the value to take it up.</span>
  <span v-else-if="learning && fault" class="bad small" role="alert">{{ fault }}</span>
</template>

<style scoped>
.bound {
  font-size: 14px;
  min-height: 34px;
}
.small {
  font-size: 13px;
}
.bad {
  color: var(--alarm);
}
.button {
  justify-content: center;
}
</style>
