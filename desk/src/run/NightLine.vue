<script setup lang="ts">
// The whole night on one line, from doors to last light: songs as stretches, cues as flags, now as a mark.
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { state } from '../live/live'
import { MAIN, useShow } from '../live/show'
import { surface } from '../live/surface'
import Choice from '../controls/Choice.vue'
import { clockWords, flags, nowAt, stretches } from './night'
import { useGo } from './useGo'

const show = useShow()
const { ask } = useGo()
const rows = computed(() => stretches(show.document?.songs ?? [], show.tracks))
const placed = computed(() => flags(show.document?.cues ?? [], rows.value))
const end = computed(() =>
  Math.max(
    60,
    ...rows.value.map((row) => row.from + row.length),
    ...placed.value.map((flag) => flag.at + 20),
  ),
)
const clock = ref(new Date())
useIntervalFn(() => {
  clock.value = new Date()
}, 1000)
const playing = computed(() => {
  const input = state.value.inputs?.[MAIN]
  return { track: input?.track ?? '', position: input?.position_s ?? 0 }
})
const now = computed(() =>
  show.document ? nowAt(show.document, rows.value, placed.value, playing.value, clock.value) : 0,
)
const share = (seconds: number): string =>
  `${(100 * Math.min(1, Math.max(0, seconds / end.value))).toFixed(3)}%`
const RUNS = [
  { value: 'hand', label: 'by hand' },
  { value: 'track', label: 'by the track' },
  { value: 'clock', label: 'by the clock' },
] as const
const nowSays = computed(() => {
  const row = rows.value.find((row) => row.from <= now.value && now.value < row.from + row.length)
  return row ? `${row.song.name} ${clockWords(now.value - row.from)}` : clockWords(now.value)
})
</script>

<template>
  <section class="night" aria-label="The night" data-learns-not>
    <div class="line" data-night>
      <div
        v-for="row in rows"
        :key="row.song.id"
        class="song"
        :class="{ here: row.song.id === show.document?.song, skipped: row.song.skipped, bad: row.missing }"
        :style="{ left: share(row.from), width: share(row.length) }"
      >
        <span>{{ row.song.name }}</span>
      </div>
      <button
        v-for="{ cue, at } in placed"
        :key="cue.id"
        v-tooltip.bottom="cue.name"
        class="flag"
        :class="{
          there: cue.id === show.document?.cue,
          waits: cue.id === surface.waiting,
        }"
        :style="{ left: share(at) }"
        :aria-label="`Cue ${cue.name}`"
        @dblclick="ask(cue.id)"
      />
      <p v-if="!rows.length && !placed.length" class="soft none">Songs and cues of the night stand here.</p>
      <i class="now" :style="{ left: share(now) }" />
    </div>
    <div class="foot">
      <span class="soft">Doors {{ show.document?.night?.doors }}</span>
      <b class="num">{{ nowSays }}</b>
      <span class="grow" />
      <span class="soft">The line runs</span>
      <Choice
        :value="show.document?.night?.runs ?? 'hand'"
        :options="RUNS"
        label="What the night line runs by"
        @choose="(runs) => show.set('/night/runs', runs, 'The night line')"
      />
    </div>
  </section>
</template>

<style scoped>
.night {
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.line {
  position: relative;
  height: 44px;
  border-radius: 8px;
  background: var(--panel);
  border: 1px solid var(--edge);
  overflow: hidden;
}
.song {
  position: absolute;
  top: 14px;
  bottom: 0;
  border-left: 2px solid var(--edge-strong);
  background: var(--raised);
  padding: 3px 7px;
  overflow: hidden;
  white-space: nowrap;
  font-size: 15px;
}
.song.here {
  background: color-mix(in srgb, var(--hand) 26%, var(--raised));
  font-weight: 700;
}
.song.skipped {
  opacity: 0.3;
}
.song.bad {
  color: var(--alarm);
}
.flag {
  position: absolute;
  top: 0;
  width: 14px;
  height: 100%;
  margin-left: -1px;
  padding: 0;
  border: 0;
  --flag: var(--soft);
  background:
    linear-gradient(var(--flag), var(--flag)) 0 0 / 11px 13px no-repeat,
    linear-gradient(var(--flag), var(--flag)) 0 0 / 2px 16px no-repeat;
  cursor: pointer;
}
.flag.there {
  --flag: var(--hand);
}
.flag.waits {
  --flag: var(--bolt);
}
.none {
  margin: 0 14px;
  line-height: 42px;
}
.now {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 3px;
  margin-left: -1px;
  background: var(--text);
  box-shadow: 0 0 9px var(--text);
  pointer-events: none;
}
.foot {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 36px;
}
.foot b {
  font-size: 18px;
}
</style>
