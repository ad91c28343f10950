<script setup lang="ts">
// Which of the show's clips; a film comes in here, with progress, and a way to break off.
import { computed, ref } from 'vue'
import { api, nameOf } from './api'
import { state } from './live'
import { useShow } from './show'

defineProps<{ value: string; label: string }>()
const emit = defineEmits<{ change: [id: string] }>()
const show = useShow()
const sound = ref(false)
const said = ref('')
const sending = ref<{ name: string; share: number; stop: AbortController } | null>(null)
const reading = computed(() =>
  sending.value && sending.value.share >= 1 ? (state.value.taking?.[sending.value.name] ?? 0) : null,
)
const share = computed(() => reading.value ?? sending.value?.share ?? 0)

async function add(event: Event): Promise<void> {
  const box = event.target as HTMLInputElement
  const file = box.files?.[0]
  box.value = ''
  if (!file) return
  const stop = new AbortController()
  said.value = ''
  sending.value = { name: nameOf(file, 'Clip'), share: 0, stop }
  try {
    const clip = await api.addClip(
      file,
      sound.value,
      (share) => {
        if (sending.value) sending.value = { ...sending.value, share }
      },
      stop.signal,
    )
    said.value = clip.said
    if (clip.track) await show.loadTracks()
    emit('change', clip.id)
  } catch (error) {
    if (!stop.signal.aborted) show.complain(error)
  }
  sending.value = null
}
</script>

<template>
  <div class="row">
    <select
      :value="value"
      :aria-label="label"
      class="button choice"
      @change="emit('change', ($event.target as HTMLSelectElement).value)"
    >
      <option value="">no clip</option>
      <option v-for="one in show.document?.clips ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
    </select>
    <label v-if="!sending" class="button add"
      >Add …<input
        type="file"
        accept="video/mp4,video/quicktime,video/webm,image/gif,.mp4,.mov,.webm,.gif"
        aria-label="Add a clip"
        @change="add"
    /></label>
  </div>
  <template v-if="sending">
    <div class="row">
      <span class="grow soft name">{{ reading === null ? 'Sending' : 'Preparing' }} {{ sending.name }}</span
      ><span class="num">{{ Math.round(share * 100) }} %</span>
    </div>
    <div class="groove" role="progressbar" :aria-valuenow="Math.round(share * 100)">
      <div class="fill" :style="{ transform: `scaleX(${share})` }" />
    </div>
    <button class="button" @click="sending.stop.abort()">Break off</button>
  </template>
  <label v-else class="soft row sound"
    ><input v-model="sound" type="checkbox" /> Keep the sound of what I add as a track</label
  >
  <small v-if="said" class="soft" role="status">{{ said }}</small>
</template>

<style scoped>
.choice {
  flex: 1;
  min-width: 0;
}
.add {
  position: relative;
  white-space: nowrap;
  flex: none;
}
.add input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.sound {
  gap: 8px;
  min-height: 32px;
  font-size: 14px;
}
.groove {
  height: 8px;
  border-radius: 3px;
  background: var(--ground);
  overflow: hidden;
  margin-bottom: 6px;
}
.fill {
  height: 100%;
  background: var(--hand);
  transform-origin: left;
}
</style>
