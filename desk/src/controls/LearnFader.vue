<script setup lang="ts">
// Which fader of a controller moves a number: bound by moving it, let go with one click.
import { computed, onMounted } from 'vue'
import { api } from '../api/api'
import { state } from '../live/live'
import { hearMidi } from '../live/midi'
import { useShow } from '../live/show'

const props = defineProps<{ target: string; title: string }>()
const show = useShow()
const mapping = computed(() => show.document?.mappings?.find((mapping) => mapping.target === props.target))
const learning = computed(() => state.value.control?.learning === props.target)
const waits = computed(() => !!mapping.value && state.value.control?.waits === mapping.value.id)
onMounted(() => void hearMidi())
function forget(): void {
  if (mapping.value) show.edit({ edit: 'remove', path: `/mappings/${mapping.value.id}` }, 'Controller')
}
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
  <button
    v-else
    class="button"
    :class="{ on: learning }"
    @click="api.learn(learning ? '' : target).catch(show.complain)"
  >
    <i class="pi pi-sliders-v" />{{ learning ? 'Now move a fader…' : `${title} on a fader` }}
  </button>
  <span v-if="waits" class="soft small" role="status">Move the fader past the value to take it up.</span>
  <span v-else-if="learning && state.control?.fault" class="bad small" role="alert">{{
    state.control.fault.text
  }}</span>
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
