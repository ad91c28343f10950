<script setup lang="ts">
// The open page: two rows of eight pads above eight faders.
import { computed } from 'vue'
import { api, type PadPage } from '../api/api'
import { useShow } from '../live/show'
import FaderStrip from './FaderStrip.vue'
import PadFace from './PadFace.vue'

const props = defineProps<{ page: PadPage; editing: boolean; left: Record<string, string> }>()
const emit = defineEmits<{ pad: [id: string]; fader: [at: number] }>()
const show = useShow()
const pads = computed(() =>
  Array.from({ length: 16 }, (_, at) => (props.page.pads ?? []).find((pad) => pad.at === at)),
)
const faders = computed(() =>
  Array.from({ length: 8 }, (_, at) => (props.page.faders ?? []).find((fader) => fader.at === at)),
)
const add = (at: number): void => {
  api.pages
    .addPad(props.page.id!, at, 'show-look', { look: show.document?.look ?? '' })
    .then(({ id }) => emit('pad', id))
    .catch(show.complain)
}
</script>

<template>
  <div class="pads" role="group" aria-label="Pads">
    <template v-for="(pad, at) in pads" :key="at">
      <PadFace
        v-if="pad"
        :pad="pad"
        :editing="editing"
        :left="left[pad.id!] ?? ''"
        @edit="emit('pad', pad.id!)"
      />
      <button
        v-else-if="editing"
        class="empty"
        :aria-label="`Put a pad into place ${at + 1}`"
        @click="add(at)"
      >
        <i class="pi pi-plus" />
      </button>
      <span v-else class="empty" />
    </template>
  </div>
  <div class="faders" role="group" aria-label="Faders">
    <template v-for="(fader, at) in faders" :key="at">
      <FaderStrip v-if="fader" :fader="fader" :editing="editing" @edit="emit('fader', at)" />
      <button
        v-else-if="editing"
        class="empty"
        :aria-label="`Put a fader into place ${at + 1}`"
        @click="emit('fader', at)"
      >
        <i class="pi pi-plus" />
      </button>
      <span v-else class="empty" />
    </template>
  </div>
</template>

<style scoped>
.pads {
  display: grid;
  grid-template-columns: repeat(8, minmax(0, 1fr));
  gap: 6px;
}
.faders {
  display: grid;
  grid-template-columns: repeat(8, minmax(0, 1fr));
  gap: 6px;
  min-height: 96px;
}
.empty {
  border: 1px dashed var(--edge);
  border-radius: 9px;
  background: none;
  min-height: 58px;
  color: var(--soft);
}
button.empty {
  cursor: pointer;
  border-color: var(--edge-strong);
}
</style>
