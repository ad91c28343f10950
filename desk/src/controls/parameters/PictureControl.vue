<script setup lang="ts">
// One of the show's pictures; new ones come in here.
import { computed, ref } from 'vue'
import { api } from '../../api/api'
import { useShow } from '../../live/show'
import Choice from '../Choice.vue'
import FilePicker from '../FilePicker.vue'
import type { ControlEmits, ControlProps } from './parameter'

defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const show = useShow()
const busy = ref(false)
const options = computed(() => [
  { value: '', label: 'no picture' },
  ...(show.document?.pictures ?? []).map((picture) => ({ value: picture.id, label: picture.name })),
])
async function add(files: File[]): Promise<void> {
  busy.value = true
  try {
    emit('change', (await api.addPicture(files[0]!)).id, '')
  } catch (error) {
    show.complain(error)
  }
  busy.value = false
}
</script>

<template>
  <div class="row">
    <Choice
      class="grow"
      :value="String(value)"
      :options="options"
      :label="parameter.title"
      @choose="(to) => emit('change', to, '')"
    /><FilePicker
      :title="busy ? 'Preparing …' : 'Add …'"
      label="Add a picture"
      accept="image/png,image/jpeg,image/webp,image/svg+xml,.svg"
      :disabled="busy"
      @files="add"
    />
  </div>
</template>
