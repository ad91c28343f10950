<script setup lang="ts">
// A route in a few words: “kick ring radius”. Python says what may be meant; Enter takes the first, arrows
// choose.
import AutoComplete, { type AutoCompleteOptionSelectEvent } from 'primevue/autocomplete'
import { ref } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'

type Meaning = Awaited<ReturnType<typeof api.understood>>[number]
const emit = defineEmits<{ made: [route: string] }>()
const show = useShow()
const text = ref<string | Meaning>('')
const found = ref<Meaning[]>([])

async function understand(words: string): Promise<void> {
  try {
    found.value = words.trim().split(/\s+/).length < 2 ? [] : await api.understood(words)
  } catch (error) {
    show.complain(error)
  }
}
async function take(event: AutoCompleteOptionSelectEvent): Promise<void> {
  const meaning = event.value as Meaning
  // Emptied at once: what is typed while the route is being made is the next one's.
  text.value = ''
  try {
    emit('made', (await api.addRoute(meaning.signal, [meaning.target])).id)
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <AutoComplete
    v-model="text"
    class="typed"
    :suggestions="found"
    :delay="120"
    auto-option-focus
    option-label="target_name"
    data-key="target"
    placeholder="Type a route: kick ring radius"
    :pt="{ pcInputText: { root: { 'aria-label': 'Type a route' } } }"
    empty-search-message="Nothing is called that. A signal first, then what it moves."
    @complete="understand($event.query)"
    @option-select="take"
  >
    <template #option="{ option }"
      ><span
        ><b :style="{ color: show.colour(option.signal) }">{{ option.signal_name }}</b> moves
        <b>{{ option.target_name }}</b></span
      ></template
    >
  </AutoComplete>
</template>

<style scoped>
.typed {
  flex: 0 1 250px;
}
.typed :deep(input) {
  width: 100%;
}
</style>
