<script setup lang="ts">
// Why a signal that is looked at rests.
import { onScopeDispose, ref, watch } from 'vue'
import { api, type Reason } from '../api/api'
import ReasonRow from '../controls/ReasonRow.vue'
import { useShow } from '../live/show'

const props = defineProps<{ signal: string; name: string }>()
const show = useShow()
const ASK_MS = 2000
const rests = ref<Reason | null>(null)
async function ask(): Promise<void> {
  rests.value = (await api.why('signal', props.signal).catch(() => []))[0] ?? null
}
watch([() => props.signal, () => show.document], () => void ask(), { immediate: true })
const asking = window.setInterval(() => void ask(), ASK_MS)
onScopeDispose(() => clearInterval(asking))
</script>

<template>
  <p v-if="rests" class="row">
    <b :style="{ color: show.colour(signal) }">{{ name }}</b><ReasonRow :reason="rests" @cured="ask" />
  </p>
</template>
