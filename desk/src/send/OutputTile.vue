<script setup lang="ts">
// One output on the wall: its picture at its true shape, and in words whether it arrives.
import { computed } from 'vue'
import type { Output } from '../api/api'
import { outputStates } from '../live/outputs'
import { useShow } from '../live/show'
import OutputPicture from './OutputPicture.vue'

const props = defineProps<{ output: Output; chosen: boolean }>()
const emit = defineEmits<{ choose: [] }>()
const show = useShow()
const state = computed(() => outputStates.value[props.output.id!])
const looked = computed(() => (state.value?.pages ?? 0) > 0)
const numbers = computed(() => {
  const now = state.value
  if (!now || !now.pages) return ''
  const late =
    now.late_ms === null || now.late_ms === undefined ? '' : ` · ${Math.round(now.late_ms)} ms late`
  return `${Math.round(now.drawn)}/s${late}${now.dropped ? ` · ${now.dropped} dropped` : ''} · ${now.size}`
})
const way = computed(() => {
  const { look, cut } = props.output
  const name = show.document?.looks.find((each) => each.id === look)?.name ?? 'What plays'
  const part = (cut?.width ?? 1) < 1 || (cut?.height ?? 1) < 1 ? ', a piece' : ''
  return `${name}${part}`
})
</script>

<template>
  <article :class="{ chosen, bad: state?.trouble }" :data-output="output.id">
    <button class="open" :aria-label="`Fit ${output.name}`" :aria-pressed="chosen" @click="emit('choose')">
      <OutputPicture :output="output" :largest="320" :one-in="4" />
    </button>
    <header>
      <strong>{{ output.name }}</strong>
      <a
        class="button plain"
        :href="`/output/${output.address}`"
        :target="`fulgura-${output.address}`"
        :aria-label="`Open ${output.name}`"
        ><code>/output/{{ output.address }}</code> <i class="pi pi-external-link"
      /></a>
    </header>
    <p class="way soft">{{ way }}</p>
    <p role="status" :class="{ alarm: state?.trouble, soft: !looked }">{{ state?.words ?? '…' }}</p>
    <p class="num soft">{{ numbers }}</p>
  </article>
</template>

<style scoped>
article {
  display: flex;
  flex-direction: column;
  gap: 2px;
  padding: 8px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--panel);
  min-width: 0;
}
.chosen {
  border-color: var(--bolt);
}
.bad {
  border-color: var(--alarm);
}
.open {
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  display: grid;
  place-items: center;
  height: 150px;
}
.open > * {
  max-width: 100%;
  height: 100%;
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
header a {
  padding: 0 4px;
  font-size: 12px;
  min-width: 0;
}
header code {
  overflow: hidden;
  text-overflow: ellipsis;
}
p {
  margin: 0;
  font-size: 13px;
  min-height: 18px;
}
.alarm {
  color: var(--alarm);
}
</style>
