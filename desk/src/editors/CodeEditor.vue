<script setup lang="ts">
// An own shader's text. It is tried before the show gets it; what is wrong is said at its line, and the show
// goes on meanwhile.
import { computed, ref, watch } from 'vue'
import { api } from '../api/api'
import { useShow } from '../live/show'

const props = defineProps<{ code: string; path: string; label: string }>()
const show = useShow()
const text = ref(props.code)
const faults = ref<{ line: number; text: string }[]>([])
const trying = ref(false)
const area = ref<HTMLTextAreaElement>()
const gutter = ref<HTMLElement>()
watch(
  () => props.code,
  (now, before) => {
    if (text.value === before) text.value = now
  },
)
const changed = computed(() => text.value !== props.code)
const lines = computed(() => text.value.split('\n').length)
const wrong = computed(() => new Map(faults.value.map((fault) => [fault.line, fault.text])))

async function use(): Promise<void> {
  trying.value = true
  try {
    faults.value = (await api.setCode(props.path, text.value)).faults
  } catch (error) {
    show.complain(error)
  }
  trying.value = false
}
function go(line: number): void {
  const at =
    text.value
      .split('\n')
      .slice(0, line - 1)
      .join('\n').length + (line > 1 ? 1 : 0)
  area.value?.focus()
  area.value?.setSelectionRange(at, at + (text.value.split('\n')[line - 1]?.length ?? 0))
}
function takeBack(): void {
  text.value = props.code
  faults.value = []
}
function tab(event: KeyboardEvent): void {
  const box = event.target as HTMLTextAreaElement
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault()
    void use()
  }
  if (event.key !== 'Tab' || event.shiftKey) return
  event.preventDefault()
  box.setRangeText('  ', box.selectionStart, box.selectionEnd, 'end')
  text.value = box.value
}
</script>

<template>
  <div class="editor" :class="{ bad: faults.length }">
    <div ref="gutter" class="gutter num" aria-hidden="true">
      <span v-for="n in lines" :key="n" :class="{ wrong: wrong.has(n) }">{{ n }}</span>
    </div>
    <textarea
      ref="area"
      v-model="text"
      class="num"
      :aria-label="label"
      :aria-invalid="faults.length > 0"
      spellcheck="false"
      maxlength="20000"
      wrap="off"
      @keydown="tab"
      @scroll="gutter!.scrollTop = area!.scrollTop"
    />
  </div>
  <ul v-if="faults.length" class="faults" role="alert">
    <li v-for="(fault, i) in faults" :key="i">
      <button v-if="fault.line" class="line num" @click="go(fault.line)">line {{ fault.line }}</button>
      {{ fault.text }}
    </li>
    <li class="soft">The picture stays as it was.</li>
  </ul>
  <div class="row acts">
    <button
      class="button"
      :class="{ on: changed }"
      :disabled="trying || (!changed && !faults.length)"
      @click="use"
    >
      {{ trying ? 'Trying it …' : 'Use it' }}
    </button>
    <button v-if="changed" class="button" @click="takeBack">Take it back</button>
    <span v-if="!changed && !faults.length" class="soft">in use</span>
  </div>
</template>

<style scoped>
.editor {
  display: flex;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  height: 260px;
  overflow: hidden;
}
.editor.bad {
  border-color: var(--alarm);
}
.gutter {
  overflow: hidden;
  padding: 6px 4px;
  text-align: right;
  color: var(--soft);
  font-size: 12px;
  line-height: 18px;
  min-width: 28px;
  display: flex;
  flex-direction: column;
}
.gutter span {
  flex: none;
}
.gutter .wrong {
  color: var(--alarm);
  font-weight: 700;
}
.gutter .wrong::before {
  content: '▸';
}
textarea {
  flex: 1;
  min-width: 0;
  background: none;
  border: 0;
  color: var(--text);
  font-size: 12px;
  line-height: 18px;
  padding: 6px;
  resize: none;
}
.faults {
  margin: 4px 0;
  padding: 0;
  list-style: none;
  font-size: 13px;
}
.line {
  background: none;
  border: 0;
  color: var(--alarm);
  cursor: pointer;
  text-decoration: underline;
  padding: 0;
  min-height: 24px;
}
.acts {
  gap: 6px;
  margin-top: 4px;
}
</style>
