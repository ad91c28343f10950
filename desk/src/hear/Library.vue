<script setup lang="ts">
// Tracks come in here: chosen or dropped, with progress, and a way to break off.
import { ref } from 'vue'
import { api } from '../api/api'
import FilePicker from '../controls/FilePicker.vue'
import Progress from '../controls/Progress.vue'
import { useSending } from '../controls/useSending'
import { state } from '../live/live'
import { useShow } from '../live/show'

const show = useShow()
const { sending, send } = useSending()
const over = ref(false)

async function add(files: File[]): Promise<void> {
  over.value = false
  for (const file of files)
    await send(file.name, async (progress, stop) => {
      const track = await api.addTrack(file, progress, stop)
      await show.loadTracks()
      show.set(`/inputs/${show.input!.id}/track/track`, track.id, 'Track')
    })
}
const drop = (event: DragEvent): Promise<void> => add([...(event.dataTransfer?.files ?? [])])
</script>

<template>
  <div
    class="library"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <Progress
      v-if="sending"
      :says="sending.share < 1 ? `Sending ${sending.name}` : `Reading ${sending.name}`"
      :share="sending.share"
      @stop="sending.stop.abort()"
    />
    <FilePicker
      v-else
      title="Add a track"
      label="Add a track"
      accept="audio/*,.wav,.flac,.ogg,.mp3,.m4a"
      several
      @files="add"
    />
    <span v-if="state.library_fault" class="bad" role="alert">{{ state.library_fault.text }}</span>
  </div>
</template>

<style scoped>
.library {
  display: flex;
  flex-direction: column;
  gap: 6px;
  border-radius: 7px;
}
.library :deep(.pick) {
  width: 100%;
  justify-content: center;
}
.over {
  outline: 2px dashed var(--bolt);
}
.bad {
  color: var(--alarm);
  font-size: 14px;
}
</style>
