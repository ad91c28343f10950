<script setup lang="ts">
// The next cues, large: what each brings as a small picture, its words, how it goes. Go, back, rehearse.
import { watchDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type CueTold } from '../api/api'
import { learnsAction } from '../controls/learns'
import { useShow } from '../live/show'
import { surface } from '../live/surface'
import SmallPicture from '../picture/SmallPicture.vue'
import { useGo } from './useGo'

defineProps<{ left: Record<string, string> }>()
const emit = defineEmits<{ edit: [cue: string] }>()
const show = useShow()
const { rehearsing, cues, at, next, ask, back, rehearse } = useGo()
const told = ref<Record<string, CueTold>>({})
const here = computed(() => cues.value[at.value])
const shown = computed(() =>
  (rehearsing.value && here.value ? [here.value, ...next.value] : next.value).slice(0, 3),
)
watchDebounced(
  [shown, () => show.document?.looks],
  async () => {
    const ids = shown.value.map((cue) => cue.id!)
    if (ids.length) told.value = await api.cues.words(ids).catch(() => ({}))
  },
  { immediate: true, debounce: 150 },
)
const keep = (changed: boolean): void => {
  api.cues.add({ changed }).catch(show.complain)
}
</script>

<template>
  <section class="next" aria-label="Next cues" :class="{ rehearsing }">
    <div class="row head">
      <button class="button go" :disabled="!next.length" v-bind="learnsAction('go-cue')" @click="ask()">
        Go<kbd>G</kbd>
      </button>
      <button
        class="button big"
        :disabled="at < 0"
        v-bind="learnsAction('go-cue', { which: 'the one before' })"
        @click="back"
      >
        Back
      </button>
      <span class="grow now">{{
        here ? (rehearsing ? `Looking at: ${here.name}` : here.name) : 'Before the first cue'
      }}</span>
      <button
        class="button big"
        :class="{ on: rehearsing }"
        :aria-pressed="rehearsing"
        @click="rehearse(!rehearsing)"
      >
        Rehearse
      </button>
      <button v-tooltip.bottom="'Keep what is shown now as a cue'" class="button big" @click="keep(false)">
        + all
      </button>
      <button
        v-tooltip.bottom="'Keep only what changed since the last cue'"
        class="button big"
        @click="keep(true)"
      >
        + change
      </button>
    </div>
    <div class="plates">
      <article
        v-for="(cue, i) in shown"
        :key="cue.id"
        class="plate"
        :class="{ first: i === 0, waits: cue.id === surface.waiting }"
        :data-cue="cue.id"
        :data-path="`/cues/${cue.id}`"
      >
        <SmallPicture
          class="picture"
          :look="cue.look || show.document?.look || ''"
          :cue="cue.id"
          :content="cue"
        />
        <div class="text">
          <button class="name" :aria-label="`Change the cue ${cue.name}`" @click="emit('edit', cue.id!)">
            {{ cue.name }}
          </button>
          <span class="goes">{{
            cue.id === surface.waiting ? `in ${left[cue.id!] ?? ''} beats` : told[cue.id!]?.goes
          }}</span>
          <span v-if="cue.note" class="note">{{ cue.note }}</span>
          <ul>
            <li v-for="gone in told[cue.id!]?.gone" :key="gone" class="bad">{{ gone }}</li>
            <li v-for="line in told[cue.id!]?.does" :key="line">{{ line }}</li>
          </ul>
        </div>
      </article>
      <p v-if="!cues.length" class="soft empty">
        No cues yet. Set picture and light, then press “+ all”: each cue keeps what is shown, in the order of
        the night.
      </p>
      <p v-else-if="!shown.length" class="soft empty">That was the last cue.</p>
    </div>
  </section>
</template>

<style scoped>
.next {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-width: 0;
  min-height: 0;
}
.next.rehearsing {
  outline: 2px dashed var(--bolt);
  outline-offset: 2px;
  border-radius: 8px;
}
.head {
  gap: 6px;
}
.go {
  min-height: 44px;
  min-width: 92px;
  justify-content: center;
  font-size: 20px;
  font-weight: 700;
  color: var(--ground);
  background: var(--hand);
  border-color: var(--hand);
}
.big {
  min-height: 44px;
}
.now {
  font-size: 18px;
  font-weight: 700;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.plates {
  display: flex;
  gap: 8px;
  flex: 1;
  min-height: 0;
}
.plate {
  flex: 1 1 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  background: var(--raised);
  border: 1px solid var(--edge);
  border-radius: 9px;
  overflow: hidden;
}
.plate.first {
  flex-grow: 1.35;
  border-color: var(--hand);
}
.plate.waits {
  border: 2px dashed var(--bolt);
}
.picture {
  width: 100%;
  max-height: 76px;
  border-radius: 0;
}
.text {
  padding: 3px 8px;
  flex: 1;
  mask-image: linear-gradient(#000 calc(100% - 22px), transparent);
  overflow: hidden;
  min-height: 0;
}
.name {
  background: none;
  border: 0;
  padding: 0;
  min-height: 40px;
  font-size: 18px;
  font-weight: 700;
  cursor: pointer;
  text-align: left;
  line-height: 1.1;
}
.goes {
  display: block;
  font-size: 15px;
  color: var(--bolt);
}
.note {
  display: block;
  font-size: 15px;
  font-style: italic;
}
ul {
  margin: 2px 0 0;
  padding: 0;
  list-style: none;
  font-size: 14px;
  color: var(--soft);
}
.bad {
  color: var(--alarm);
}
.empty {
  font-size: 16px;
  margin: 12px;
}
kbd {
  color: var(--ground);
  border-color: var(--ground);
}
</style>
