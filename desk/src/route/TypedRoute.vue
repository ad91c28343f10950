<script setup lang="ts">
// A route in a few words: “kick ring radius”. Python says what may be meant; Enter takes the first, arrows
// choose.
import AutoComplete, { type AutoCompleteOptionSelectEvent } from 'primevue/autocomplete'
import { nextTick, ref } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'

type Meaning = Awaited<ReturnType<typeof api.understood>>[number]
const emit = defineEmits<{ made: [route: string] }>()
const show = useShow()
const text = ref<string | Meaning>('')
const found = ref<Meaning[]>([])
const box = ref<InstanceType<typeof AutoComplete>>()
/** The words that the list answers, and those that were entered before it did. */
let answered = ''
let entered = ''
/** Of a look that is not shown: asked about first, or nothing would be seen to move. */
const asking = ref<Meaning | null>(null)

async function understand(words: string): Promise<void> {
  try {
    found.value = words.trim().split(/\s+/).length < 2 ? [] : await api.understood(words)
    answered = words
    const first = found.value[0]
    if (entered !== words || !first) return
    entered = ''
    await nextTick() // The list that has just opened closes again.
    ;(box.value as unknown as { hide: () => void }).hide()
    if (text.value === words) text.value = ''
    if (document.activeElement instanceof HTMLInputElement && !text.value) document.activeElement.blur()
    await mean(first)
  } catch (error) {
    show.complain(error)
  }
}
/** Enter, before the list is one of these words: the first that they mean is taken once it is known. */
function enter(event: KeyboardEvent): void {
  if (typeof text.value !== 'string' || text.value === answered || !text.value.trim()) return
  event.stopPropagation()
  event.preventDefault()
  entered = text.value
}
async function take(event: AutoCompleteOptionSelectEvent): Promise<void> {
  // Emptied at once: what is typed while the route is being made is the next one's.
  text.value = ''
  await mean(event.value as Meaning)
}
async function mean(meaning: Meaning): Promise<void> {
  if (meaning.look) asking.value = meaning
  else await make(meaning)
}
async function make(meaning: Meaning): Promise<void> {
  asking.value = null
  try {
    emit('made', (await api.addRoute(meaning.signal, [meaning.target], meaning.wish)).id)
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <AutoComplete
    ref="box"
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
    @keydown.enter.capture="enter"
  >
    <template #option="{ option }"
      ><span
        ><b :style="{ color: show.colour(option.signal) }">{{ option.signal_name }}</b> moves
        <b>{{ option.target_name }}</b><em v-if="option.wish_says" class="soft"
          >, {{ option.wish_says }}</em
        ></span
      ></template
    >
  </AutoComplete>
  <span v-if="asking" class="row ask" role="alert">
    <b>{{ asking.target_name }}</b> belongs to {{ asking.look }}, which is not shown.
    <button class="button on" @click="make(asking)">Join it all the same</button>
    <button class="button" @click="asking = null">Leave it</button>
  </span>
</template>

<style scoped>
.typed {
  flex: 1 1 320px;
  max-width: 460px;
}
.ask {
  flex-wrap: wrap;
  font-size: 14px;
  border: 1px solid var(--bolt);
  border-radius: 8px;
  padding: 4px 10px;
}
.typed :deep(input) {
  width: 100%;
}
</style>
