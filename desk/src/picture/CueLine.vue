<script setup lang="ts">
// The cues in the order of the night: one button goes to the next, each can be recalled by itself.
import { computed, nextTick, ref, watch } from 'vue'
import { api, type Cue } from '../api/api'
import NameField from '../controls/NameField.vue'
import { useShow } from '../live/show'

const props = defineProps<{ /** Beats that a new cue's look takes to come. */ over: number }>()
const show = useShow()
const cues = computed(() => show.document?.cues ?? [])
const now = computed(() => cues.value.findIndex((cue) => cue.id === show.document?.cue))
const next = computed(() => cues.value[now.value + 1])
const changing = ref(false)
const line = ref<HTMLElement>()
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
const lookName = (look: string): string =>
  show.document?.looks?.find((other) => other.id === look)?.name ?? 'a look that is gone'
const time = ({ over }: Cue): string =>
  over?.amount
    ? `over ${over.amount} ${over.amount === 1 ? over.unit!.replace(/s$/, '') : over.unit}`
    : 'at once'
const way = (cue: Cue): string =>
  cue.look ? `To ${lookName(cue.look)} ${time(cue)}` : `A part, ${time(cue)}`
watch(
  now,
  () =>
    void nextTick(() =>
      line.value?.querySelector('.there')?.scrollIntoView({ block: 'nearest', inline: 'nearest' }),
    ),
  { flush: 'post' },
)
const keep = (): void =>
  doing(
    api.cues.add({ over: { amount: props.over, unit: 'beats' } }).then(() => {
      changing.value = true
    }),
  )
</script>

<template>
  <section class="cues row" aria-label="Cues">
    <button
      v-if="cues.length"
      v-tooltip.bottom="next ? `${way(next)} (G)` : 'That was the last cue'"
      class="button go"
      :disabled="!next"
      @click="doing(api.cues.recall())"
    >
      Go<strong v-if="next">{{ next.name }}</strong>
    </button>
    <div ref="line" class="line">
      <template v-for="(cue, i) in cues" :key="cue.id">
        <span v-if="changing" class="row change">
          <NameField
            v-tooltip.bottom="way(cue)"
            class="named"
            :value="cue.name"
            :label="`Name of the cue ${cue.name}`"
            @change="(name) => show.set(`/cues/${cue.id}/name`, name, 'Rename cue')"
          />
          <input
            class="num"
            type="number"
            min="0"
            max="64"
            :value="cue.over?.amount"
            :aria-label="`Time of the cue ${cue.name}, in ${cue.over?.unit}`"
            @change="
              show.set(
                `/cues/${cue.id}/over/amount`,
                Number(($event.target as HTMLInputElement).value),
                'Time of a cue',
              )
            "
          />
          <button
            class="tiny"
            :disabled="i === 0"
            :aria-label="`${cue.name} earlier`"
            @click="show.edit({ edit: 'move', path: `/cues/${cue.id}`, index: i - 1 }, 'Move cue')"
          >
            <i class="pi pi-arrow-left" />
          </button>
          <button
            class="tiny"
            :aria-label="`Remove the cue ${cue.name}`"
            @click="show.edit({ edit: 'remove', path: `/cues/${cue.id}` }, 'Remove cue')"
          >
            <i class="pi pi-trash" />
          </button>
        </span>
        <button
          v-else
          v-tooltip.bottom="way(cue)"
          class="button cue"
          :class="{ there: i === now, past: i < now }"
          :aria-current="i === now"
          @click="doing(api.cues.recall(cue.id))"
        >
          {{ cue.name }}
        </button>
      </template>
      <span v-if="!cues.length" class="soft"
        >No cues yet: keep looks as cues, in the order of the night, and go from one to the next with one
        key.</span
      >
    </div>
    <button
      v-if="cues.length"
      v-tooltip.bottom="'Names, beats and order of the cues'"
      class="button"
      :class="{ on: changing }"
      :aria-pressed="changing"
      aria-label="Change cues"
      @click="changing = !changing"
    >
      <i class="pi pi-pencil" />
    </button>
    <button
      v-tooltip.bottom="'Keep the shown look as a cue, after the last one recalled'"
      class="button"
      :disabled="!show.look"
      @click="keep"
    >
      + cue
    </button>
  </section>
</template>

<style scoped>
.cues {
  gap: 6px;
  margin-bottom: 10px;
  min-height: 36px;
}
.line {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 4px;
  overflow-x: auto;
  scrollbar-width: thin;
  align-items: center;
}
.line > * {
  flex: none;
}
.line .soft {
  flex: 1;
  font-size: 14px;
}
.go {
  border-color: var(--hand);
  color: var(--hand);
  max-width: 190px;
}
.go strong {
  overflow: hidden;
  text-overflow: ellipsis;
}
.cue {
  border-color: transparent;
  background: none;
  border-bottom: 2px solid var(--edge);
  border-radius: 0;
  padding: 0 8px;
}
.there {
  border-bottom-color: var(--hand);
  color: var(--hand);
  font-weight: 700;
}
.past {
  color: var(--soft);
}
.change {
  gap: 2px;
}
.change input {
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 6px;
  padding: 0 6px;
  min-height: 32px;
}
.change .named {
  width: 96px;
}
.change .num {
  width: 52px;
}
.tiny {
  background: none;
  border: 0;
  color: var(--soft);
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
  padding: 0;
}
</style>
