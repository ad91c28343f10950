<script setup lang="ts">
// Lets the room hear the films whose own sound an input listens to, each in step with its picture.
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import { FilmSound } from './filmSound'

const show = useShow()
const heard = computed(() =>
  (show.document?.inputs ?? []).filter(({ use, film }) => use === 'film' && film?.part && !film.muted),
)
const context = ref<AudioContext>()
const asleep = ref(false)
const sounds = new Map<string, FilmSound>()

function look(): void {
  asleep.value = context.value?.state === 'suspended'
}
async function wake(): Promise<void> {
  await context.value?.resume()
  look()
}
watch([heard, state], ([inputs, { inputs: told }]) => {
  if (inputs.length && !context.value) {
    context.value = new AudioContext()
    context.value.onstatechange = look
    look()
  }
  for (const [id, sound] of sounds)
    if (!inputs.some((input) => input.id === id)) {
      sound.stop()
      sounds.delete(id)
    }
  for (const { id } of inputs) {
    if (!sounds.has(id)) sounds.set(id, new FilmSound(context.value!))
    const film = told?.[id!]?.film
    if (film) sounds.get(id!)!.follow(film)
  }
})
onBeforeUnmount(() => context.value?.close())
</script>

<template>
  <button v-if="heard.length && asleep" class="button ask" @click="wake">
    <i class="pi pi-volume-up" /> Let me hear the film
  </button>
</template>

<style scoped>
.ask {
  border-color: var(--bolt);
  color: var(--bolt);
  min-height: 34px;
}
</style>
