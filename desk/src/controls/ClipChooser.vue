<script setup lang="ts">
// Which of the show's clips; a film comes in here, with progress, and a way to break off.
import { computed, ref } from 'vue'
import { api, nameOf } from '../api/api'
import { state } from '../live/live'
import { useShow } from '../live/show'
import Choice from './Choice.vue'
import FilePicker from './FilePicker.vue'
import Progress from './Progress.vue'
import Toggle from './Toggle.vue'
import { useSending } from './useSending'

defineProps<{ value: string; label: string }>()
const emit = defineEmits<{ change: [id: string] }>()
const show = useShow()
const { sending, send } = useSending()
const sound = ref(true)
const said = ref('')
const options = computed(() => [
  { value: '', label: 'no clip' },
  ...(show.document?.clips ?? []).map((clip) => ({ value: clip.id, label: clip.name })),
])
// First it is sent, then it is made ready there; both take their time.
const reading = computed(() =>
  sending.value && sending.value.share >= 1 ? (state.value.importing?.[sending.value.name] ?? 0) : null,
)
const share = computed(() => reading.value ?? sending.value?.share ?? 0)

async function add(files: File[]): Promise<void> {
  const file = files[0]!
  said.value = ''
  await send(nameOf(file, 'Clip'), async (progress, stop) => {
    const clip = await api.addClip(file, sound.value, progress, stop)
    said.value = clip.said
    if (clip.track) await show.loadTracks()
    emit('change', clip.id)
  })
}
</script>

<template>
  <div class="row">
    <Choice
      class="grow"
      :value="value"
      :options="options"
      :label="label"
      @choose="(id) => emit('change', id)"
    />
    <FilePicker
      v-if="!sending"
      title="Add …"
      label="Add a clip"
      accept="video/mp4,video/quicktime,video/webm,image/gif,.mp4,.mov,.webm,.gif"
      @files="add"
    />
  </div>
  <Progress
    v-if="sending"
    :says="`${reading === null ? 'Sending' : 'Preparing'} ${sending.name}`"
    :share="share"
    @stop="sending.stop.abort()"
  />
  <div v-else class="soft row sound">
    <Toggle :value="sound" label="Keep the sound" @change="(on) => (sound = on)" />Keep the sound of what I
    add as a track
  </div>
  <small v-if="said" class="soft" role="status">{{ said }}</small>
</template>

<style scoped>
.sound {
  gap: 8px;
  min-height: 32px;
  font-size: 14px;
}
</style>
