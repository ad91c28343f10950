<script setup lang="ts">
// Choosing a source or an effect: each with a small moving picture and its first sentence, found by a few
// letters.
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import type { KindInfo } from '../api/api'
import { useShow } from '../live/show'
import KindPicture from './KindPicture.vue'

const props = defineProps<{ family: string; title: string; label: string; disabled?: boolean }>()
const emit = defineEmits<{ choose: [kind: string] }>()
const show = useShow()
const visible = ref(false)
const words = ref('')
const kinds = computed(() => show.kinds.filter((kind) => kind.family === props.family))
const found = computed(() => {
  const sought = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (kind: KindInfo): boolean =>
    sought.every((word) => `${kind.title} ${kind.help}`.toLowerCase().includes(word))
  // What is called so stands before what only says so.
  const named = (kind: KindInfo): number => Number(kind.title.toLowerCase().includes(sought[0] ?? ''))
  return kinds.value.filter(fits).sort((a, b) => named(b) - named(a))
})
const firstSentence = (kind: KindInfo): string => /^.*?\.(?=\s|$)/.exec(kind.help)?.[0] ?? kind.help
function open(): void {
  words.value = ''
  visible.value = true
}
function take(kind: KindInfo | undefined): void {
  if (!kind) return
  visible.value = false
  emit('choose', kind.kind)
}
</script>

<template>
  <button class="button add" :disabled="disabled" :aria-label="label" @click="open">
    {{ title }}
  </button>
  <Dialog v-model:visible="visible" modal dismissable-mask :header="label" class="kind-chooser">
    <input
      v-model="words"
      class="field"
      autofocus
      placeholder="Find by name or by what it does"
      :aria-label="`Find: ${label}`"
      @keydown.enter.prevent="take(found[0])"
    />
    <div class="kinds scroll">
      <button v-for="kind in found" :key="kind.kind" class="kind" :data-kind="kind.kind" @click="take(kind)">
        <KindPicture :kind="kind" /><strong>{{ kind.title }}</strong
        ><span class="soft">{{ firstSentence(kind) }}</span>
      </button>
      <p v-if="!found.length" class="soft">Nothing is called that, or does that.</p>
    </div>
  </Dialog>
</template>

<style scoped>
.add {
  min-height: 32px;
  padding: 0 9px;
}
.field {
  width: 100%;
  min-height: 38px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  padding: 0 12px;
  margin: 4px 0 12px;
}
.kinds {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 10px;
  width: min(960px, 88vw);
  height: min(540px, 62vh);
  align-content: start;
  padding: 3px;
}
.kind {
  display: flex;
  flex-direction: column;
  gap: 3px;
  text-align: left;
  background: var(--raised);
  border: 1px solid var(--edge);
  border-radius: 8px;
  padding: 7px;
  cursor: pointer;
  font-size: 14px;
  line-height: 1.3;
}
.kind:hover {
  border-color: var(--hand);
}
</style>
