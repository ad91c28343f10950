<script setup lang="ts">
// A route in a few words: “kick ring radius”. Python says what may be meant; Enter takes the first, arrows choose.
import { ref, watch } from 'vue'
import { api } from '../shared/api'
import { useShow } from '../shared/show'

type Meaning = Awaited<ReturnType<typeof api.understood>>[number]
const emit = defineEmits<{ made: [route: string] }>()
const show = useShow()
const text = ref('')
const found = ref<Meaning[]>([])
const at = ref(0)
const asked = ref(false)
let soon = 0
watch(text, (words) => {
  clearTimeout(soon)
  asked.value = false
  if (words.trim().split(/\s+/).length < 2) {
    found.value = []
    return
  }
  soon = window.setTimeout(async () => {
    try {
      found.value = await api.understood(words)
      at.value = 0
      asked.value = true
    } catch (error) {
      show.complain(error)
    }
  }, 120)
})
async function take(one: Meaning | undefined): Promise<void> {
  if (!one) return
  // Emptied at once: what is typed while the route is being made is the next one's.
  const words = text.value
  text.value = ''
  try {
    emit('made', (await api.addRoute(one.signal, [one.target])).id)
  } catch (error) {
    text.value ||= words
    show.complain(error)
  }
}
function key(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') {
    event.preventDefault()
    at.value = Math.min(found.value.length - 1, at.value + 1)
  }
  if (event.key === 'ArrowUp') {
    event.preventDefault()
    at.value = Math.max(0, at.value - 1)
  }
  if (event.key === 'Enter') {
    event.preventDefault()
    void take(found.value[at.value])
  }
  if (event.key === 'Escape') text.value = ''
}
</script>

<template>
  <div class="typed">
    <input
      v-model="text"
      class="field"
      placeholder="Type a route: kick ring radius"
      aria-label="Type a route"
      role="combobox"
      :aria-expanded="found.length > 0"
      aria-controls="meanings"
      @keydown="key"
    />
    <ul v-if="found.length" id="meanings" role="listbox">
      <li
        v-for="(one, i) in found"
        :key="one.signal + one.target"
        role="option"
        :aria-selected="i === at"
        :class="{ at: i === at }"
        @pointerdown.prevent="take(one)"
      >
        <b :style="{ color: show.colour(one.signal) }">{{ one.signal_name }}</b> moves
        <b>{{ one.target_name }}</b>
      </li>
    </ul>
    <p v-else-if="asked && text" class="none">Nothing is called that. A signal first, then what it moves.</p>
  </div>
</template>

<style scoped>
.typed {
  position: relative;
  flex: 0 1 250px;
}
.field {
  width: 100%;
  min-height: 34px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 7px;
  padding: 0 10px;
}
ul,
.none {
  position: absolute;
  z-index: 20;
  top: 38px;
  left: 0;
  min-width: 330px;
  margin: 0;
  padding: 4px;
  list-style: none;
  background: var(--raised);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
}
.none {
  padding: 10px;
}
li {
  padding: 7px 9px;
  border-radius: 5px;
  cursor: pointer;
  font-size: 14px;
}
li.at {
  background: var(--ground);
  outline: 1px solid var(--bolt);
}
</style>
