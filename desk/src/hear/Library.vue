<script setup lang="ts">
// Tracks come in here: chosen or dropped, with progress, and a way to break off.
import { ref } from 'vue'
import { api } from '../shared/api'
import { state } from '../shared/live'
import { useShow } from '../shared/show'

const show = useShow()
const chooser = ref<HTMLInputElement>()
const sending = ref<{ name: string; share: number; stop: AbortController } | null>(null)
const over = ref(false)

async function add(files: FileList | null | undefined): Promise<void> {
  over.value = false
  for (const file of files ?? []) {
    const stop = new AbortController()
    sending.value = { name: file.name, share: 0, stop }
    try {
      const track = await api.addTrack(
        file,
        (share) => {
          if (sending.value) sending.value = { ...sending.value, share }
        },
        stop.signal,
      )
      await show.loadTracks()
      show.set(`/inputs/${show.input!.id}/track/track`, track.id, 'Track')
    } catch (error) {
      if (!stop.signal.aborted) show.complain(error)
    }
    sending.value = null
  }
  if (chooser.value) chooser.value.value = ''
}
</script>

<template>
  <div
    class="library"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="add($event.dataTransfer?.files)"
  >
    <template v-if="sending">
      <div class="row">
        <span class="grow name">{{
          sending.share < 1 ? `Sending ${sending.name}` : `Reading ${sending.name}`
        }}</span><span class="num">{{ Math.round(sending.share * 100) }} %</span>
      </div>
      <div class="groove"><div class="fill" :style="{ transform: `scaleX(${sending.share})` }" /></div>
      <button class="button" @click="sending.stop.abort()">Break off</button>
    </template>
    <button v-else class="button" @click="chooser?.click()"><i class="pi pi-upload" />Add a track</button>
    <span v-if="state.library_trouble" class="bad" role="alert">{{ state.library_trouble }}</span>
    <input
      ref="chooser"
      type="file"
      accept="audio/*,.wav,.flac,.ogg,.mp3,.m4a"
      multiple
      hidden
      data-testid="add-track"
      @change="add(($event.target as HTMLInputElement).files)"
    />
  </div>
</template>

<style scoped>
.library {
  display: flex;
  flex-direction: column;
  gap: 6px;
  border-radius: 7px;
}
.library > .button {
  justify-content: center;
}
.over {
  outline: 2px dashed var(--bolt);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 14px;
}
.bad {
  color: var(--alarm);
  font-size: 14px;
}
.groove {
  height: 8px;
  border-radius: 3px;
  background: var(--ground);
  overflow: hidden;
}
.fill {
  height: 100%;
  background: var(--hand);
  transform-origin: left;
}
</style>
