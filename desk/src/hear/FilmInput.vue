<script setup lang="ts">
// The own sound of a film, locked to the layer that shows it.
import { computed } from 'vue'
import Choice from '../controls/Choice.vue'
import Toggle from '../controls/Toggle.vue'
import { useShow } from '../live/show'

const props = defineProps<{ film: { part?: string; muted?: boolean }; path: string }>()
const show = useShow()
const clips = computed(() => new Map((show.document?.clips ?? []).map((clip) => [clip.id, clip])))
const options = computed(() => {
  const found = (show.document?.looks ?? []).flatMap((look) =>
    (look.layers ?? [])
      .filter(({ source }) => source.kind === 'clip')
      .map(({ name, source }) => {
        const clip = clips.value.get(String((source.values as Record<string, unknown>).file))
        return { value: source.id, label: `${name} (${look.name})${clip?.track ? '' : ' · without sound'}` }
      }),
  )
  return [{ value: '', label: 'no film' }, ...found]
})
const set = (name: string, value: unknown): void =>
  show.set(`${props.path}/film/${name}`, value, 'Film’s sound')
</script>

<template>
  <div class="row">
    <span>Film</span>
    <Choice
      class="grow"
      :value="film.part ?? ''"
      :options="options"
      label="Whose sound is heard"
      @choose="(part) => set('part', part)"
    />
  </div>
  <div class="row">
    <Toggle :value="!film.muted" label="Heard at the desk" @change="(heard) => set('muted', !heard)" />
    <span>Heard at the desk</span>
  </div>
  <p class="soft">
    Its sound goes where its picture goes: as fast, backward too, and back and forth. What it moves goes on
    when it is not heard.
  </p>
</template>
