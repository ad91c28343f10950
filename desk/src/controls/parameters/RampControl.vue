<script setup lang="ts">
// A ramp of the show: which one, and its stops, dragged along it or typed.
import { computed, ref } from 'vue'
import { api } from '../../api/api'
import { usePalette } from '../../live/palette'
import { useShow } from '../../live/show'
import Choice from '../Choice.vue'
import NameField from '../NameField.vue'
import RampStops from './RampStops.vue'
import type { ControlEmits, ControlProps } from './parameter'

const NEW = 'new ramp'
const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const show = useShow()
const { seen } = usePalette()
const ramp = computed(() => show.document?.ramps?.find(({ id }) => id === props.value))
const options = computed(() => [
  { value: '', label: props.parameter.empty || 'its own' },
  ...(show.document?.ramps ?? []).map(({ id, name }) => ({ value: id, label: name })),
  { value: NEW, label: 'a new ramp' },
])
const busy = ref(false)
async function choose(to: string): Promise<void> {
  if (to !== NEW) return emit('change', to, '')
  busy.value = true
  try {
    emit('change', (await api.addRamp('', String(props.value))).id, '')
  } catch (error) {
    show.complain(error)
  }
  busy.value = false
}
const path = computed(() => `/ramps/${ramp.value?.id}`)
const remove = (): void => {
  if (ramp.value) api.removeRamp(ramp.value.id).catch(show.complain)
}
</script>

<template>
  <div class="ramp">
    <Choice
      :value="String(value)"
      :options="options"
      :label="parameter.title"
      :disabled="busy"
      @choose="choose"
    />
    <template v-if="ramp">
      <div class="row">
        <NameField
          class="grow"
          :value="ramp.name"
          :at="path"
          label="Name of the ramp"
          @change="(text) => show.set(`${path}/name`, text, 'Rename ramp')"
        />
        <button class="button plain" :aria-label="`Remove the ramp ${ramp.name}`" @click="remove">
          <i class="pi pi-trash" />
        </button>
      </div>
      <RampStops :ramp="ramp.id" :part="ramp.part" :path="`${path}/part`" :seen="seen" />
    </template>
  </div>
</template>

<style scoped>
.ramp {
  display: grid;
  gap: 4px;
}
</style>
