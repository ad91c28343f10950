<script setup lang="ts">
// A route that is chosen, not typed: when this sounds, that moves; several take turns.
import { computed, ref } from 'vue'
import { api } from '../api/api'
import Choice from '../controls/Choice.vue'
import { useShow } from '../live/show'
import { useNamed } from './useNamed'

const emit = defineEmits<{ made: [route: string]; close: [] }>()
const show = useShow()
const signal = ref('')
const targets = ref<string[]>([])
const { signals, parameters } = useNamed()
const others = computed(() =>
  parameters.value.filter((parameter) => !targets.value.includes(parameter.value)),
)
const first = (target: string): void => {
  targets.value = [target, ...targets.value.slice(1)]
}
const more = (target: string): void => {
  targets.value = [...targets.value, target]
}
async function add(): Promise<void> {
  try {
    emit('made', (await api.addRoute(signal.value, targets.value)).id)
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <form class="row new" @submit.prevent="add">
    <span>When</span>
    <Choice
      :value="signal"
      :options="signals"
      placeholder="this sounds"
      find
      label="Signal"
      @choose="(id) => (signal = id)"
    />
    <span>it moves</span>
    <Choice
      :value="targets[0]"
      :options="parameters"
      placeholder="this"
      find
      label="Parameter"
      @choose="first"
    />
    <Choice
      v-if="targets.length"
      :key="targets.length"
      :value="null"
      :options="others"
      placeholder="and, in turn, …"
      find
      label="One more parameter"
      @choose="more"
    />
    <span v-if="targets.length > 1" class="soft">{{ targets.length }} in turn</span>
    <button class="button on" :disabled="!signal || !targets.length">Add it</button>
    <button type="button" class="button plain" @click="emit('close')">Leave it</button>
  </form>
</template>

<style scoped>
.new {
  margin-bottom: 8px;
  flex-wrap: wrap;
}
.new :deep(.choice) {
  min-width: 150px;
}
</style>
