<script setup lang="ts">
// The looks of the show: which is seen, which lies beside it, and how one goes over into another.
import { computed, nextTick, ref, watch } from 'vue'
import { api } from '../shared/api'
import PartControls from '../shared/PartControls.vue'
import { useShow } from '../shared/show'
import CueLine from './CueLine.vue'
import SmallPicture from './SmallPicture.vue'

const show = useShow()
const OVER = [0, 1, 2, 4, 8, 16]
const over = ref(4)
const looks = computed(() => show.document?.looks ?? [])
const beside = computed(() =>
  looks.value.find((one) => one.id === show.document?.beside && one.id !== show.document?.look),
)
const strip = ref<HTMLElement>()
// The shown look is always in sight, whoever chose it.
watch(
  () => show.look?.id,
  () =>
    void nextTick(() =>
      strip.value?.querySelector('.shown')?.scrollIntoView({ block: 'nearest', inline: 'nearest' }),
    ),
  { immediate: true, flush: 'post' },
)
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
function go(id: string, name: string): void {
  if (id !== show.document?.look)
    doing(api.edit({ edit: 'set', path: '/look', value: id }, `Look ${name}`, '', 0, over.value))
}
</script>

<template>
  <div class="looks row">
    <div ref="strip" class="strip" role="tablist" aria-label="Looks">
      <div
        v-for="one in looks"
        :key="one.id"
        class="look"
        :class="{ shown: one.id === show.look?.id, beside: one.id === beside?.id }"
      >
        <button
          class="pick"
          role="tab"
          :aria-selected="one.id === show.look?.id"
          @click="go(one.id, one.name)"
        >
          <SmallPicture :look="one.id" :content="[one.layers, one.finish]" /><span class="name">{{
            one.name
          }}</span>
        </button>
        <button
          v-if="one.id !== show.look?.id"
          v-tooltip.bottom="'Beside the shown look: mix the two by hand'"
          class="side"
          :class="{ on: one.id === beside?.id }"
          :aria-pressed="one.id === beside?.id"
          :aria-label="`${one.name} beside the shown look`"
          @click="show.set('/beside', one.id === beside?.id ? '' : one.id, 'Look beside')"
        >
          B
        </button>
      </div>
    </div>
    <div class="acts">
      <label class="row soft"
        >Over
        <select
          v-model.number="over"
          class="button"
          aria-label="How long a look takes to go over into the next"
        >
          <option v-for="beats in OVER" :key="beats" :value="beats">
            {{ beats === 0 ? 'at once' : beats === 1 ? '1 beat' : `${beats} beats` }}
          </option>
        </select></label
      >
      <span class="row">
        <button
          v-tooltip.bottom="'A copy of this look, with all that moves it'"
          class="button"
          :disabled="!show.look"
          @click="doing(api.addLook(`${show.look!.name} 2`, show.look!.id))"
        >
          <i class="pi pi-copy" />Copy
        </button>
        <button
          v-tooltip.bottom="'An empty look'"
          class="button"
          aria-label="New look"
          @click="doing(api.addLook('New look'))"
        >
          <i class="pi pi-plus" />
        </button>
      </span>
    </div>
  </div>
  <CueLine :over="over" />
  <div v-if="beside && show.document?.crossing" class="between row" data-testid="beside">
    <span class="end">{{ show.look?.name }}</span>
    <div class="grow"><PartControls :part="show.document.crossing" path="/crossing" :columns="2" /></div>
    <span class="end">{{ beside.name }}</span>
  </div>
</template>

<style scoped>
.looks {
  gap: 12px;
  align-items: stretch;
  margin-bottom: 10px;
}
.strip {
  display: flex;
  gap: 6px;
  overflow-x: auto;
  flex: 1;
  scrollbar-width: thin;
  padding-bottom: 3px;
}
.look {
  position: relative;
  width: 92px;
  flex: none;
}
.pick {
  width: 100%;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  padding: 0;
  cursor: pointer;
  color: var(--soft);
  text-align: left;
}
.name {
  display: block;
  font-size: 13px;
  line-height: 20px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  padding: 0 2px;
}
.shown .pick {
  color: var(--text);
  border-bottom-color: var(--hand);
}
.beside .pick {
  border-bottom-color: var(--hand);
  border-bottom-style: dashed;
}
.side {
  position: absolute;
  right: 0;
  top: 0;
  width: 32px;
  height: 32px;
  background: none;
  border: 0;
  color: var(--text);
  font-weight: 700;
  cursor: pointer;
  opacity: 0;
  text-shadow:
    0 0 4px #000,
    0 0 2px #000;
}
.look:hover .side,
.side:focus-visible,
.side.on {
  opacity: 1;
}
.side.on {
  color: var(--hand);
}
.acts {
  display: flex;
  flex-direction: column;
  gap: 6px;
  justify-content: space-between;
  flex: none;
}
.acts .button {
  min-height: 32px;
}
.acts label {
  gap: 6px;
}
.acts .row {
  gap: 6px;
}
.between {
  gap: 12px;
  border: 1px dashed var(--hand);
  border-radius: 8px;
  padding: 4px 10px;
}
.end {
  max-width: 120px;
  font-weight: 700;
  font-size: 14px;
}
</style>
