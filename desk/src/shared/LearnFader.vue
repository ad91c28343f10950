<script setup lang="ts">
// Which fader of a controller moves a number: bound by moving it, let go with one click.
import { computed, onMounted } from 'vue'
import { api } from './api'
import { state } from './live'
import { hearMidi } from './midi'
import { useShow } from './show'

const props = defineProps<{ target: string; title: string }>()
const show = useShow()
const control = computed(() => show.document?.controls?.find((one) => one.target === props.target))
const learning = computed(() => state.value.control?.learning === props.target)
const waits = computed(() => !!control.value && state.value.control?.waits === control.value.id)
onMounted(() => void hearMidi())
function forget(): void {
  if (control.value) show.edit({ edit: 'remove', path: `/controls/${control.value.id}` }, 'Controller')
}
</script>

<template>
  <div v-if="control && !learning" class="row bound">
    <span class="grow"
      ><i class="pi pi-sliders-v" aria-hidden="true" /> <span class="num">{{ control.source }}</span></span
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
  <span v-else-if="learning && state.control?.trouble" class="bad small" role="alert">{{
    state.control.trouble
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
