<script setup lang="ts">
// What a fader moves: one or several numbers, each between two values, straight or bent.
import Drawer from 'primevue/drawer'
import { computed } from 'vue'
import { api, type Fader } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import NameField from '../controls/NameField.vue'
import { useShow } from '../live/show'
import LongPress from './LongPress.vue'
import { movable } from './movable'
import { faderWords, pathWords } from './words'

const props = defineProps<{ fader: Fader | undefined; at: number; page: string }>()
const emit = defineEmits<{ close: [] }>()
const show = useShow()
const path = computed(() => `/pages/${props.page}/faders/${props.fader?.id}`)
const moves = computed(() => props.fader?.moves ?? [])
const options = computed(() => movable(show))
const add = (target: string): void => {
  api.pages.addFader(props.page, props.at, target).catch(show.complain)
}
const setMoves = (rows: Fader['moves']): void => show.set(`${path.value}/moves`, rows, 'Fader')
function set(index: number, name: 'low' | 'high' | 'bend', text: string): void {
  const value = Number(text)
  if (Number.isFinite(value))
    setMoves(moves.value.map((move, i) => (i === index ? { ...move, [name]: value } : move)))
}
const turn = (index: number): void =>
  setMoves(moves.value.map((move, i) => (i === index ? { ...move, low: move.high, high: move.low } : move)))
const drop = (index: number): void => setMoves(moves.value.filter((_, i) => i !== index))
function remove(): void {
  show.edit({ edit: 'remove', path: path.value }, 'Remove fader')
  emit('close')
}
</script>

<template>
  <Drawer visible position="right" :header="`Fader ${at + 1}`" class="editor" @update:visible="emit('close')">
    <NameField
      v-if="fader"
      class="name"
      :value="faderWords(show, fader)"
      label="Name of the fader"
      @change="(name) => show.set(`${path}/name`, name, 'Fader')"
    />
    <section v-for="(move, i) in moves" :key="move.target" class="move">
      <strong>{{ pathWords(show, move.target) }}</strong>
      <div class="row">
        <Field label="from" :value="move.low ?? 0" :low="-1e6" @change="(text) => set(i, 'low', text)" />
        <Field label="to" :value="move.high ?? 1" :low="-1e6" @change="(text) => set(i, 'high', text)" />
        <Field
          label="bend"
          :value="move.bend ?? 0"
          :low="-1"
          :high="1"
          @change="(text) => set(i, 'bend', text)"
        />
      </div>
      <div class="row">
        <button class="button" @click="turn(i)">Other way round</button>
        <button class="button plain" aria-label="Move this no more" @click="drop(i)">
          <i class="pi pi-times" />
        </button>
      </div>
    </section>
    <Choice value="" :options="options" label="Let it move" placeholder="Let it move…" find @choose="add" />
    <div v-if="fader" class="row end">
      <span class="grow" />
      <LongPress label="Take the fader away" @done="remove"><i class="pi pi-trash" /></LongPress>
    </div>
  </Drawer>
</template>

<style scoped>
.name {
  font-size: 20px;
  width: 100%;
}
.move {
  border-left: 4px solid var(--hand);
  padding: 2px 0 4px 10px;
  margin: 10px 0;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.end {
  margin-top: 12px;
}
</style>
