<script setup lang="ts">
// The stops of a ramp on the ramp itself: pulled along it, added by a click beside them; the chosen one's
// place, colour and opacity below, where routes reach them.
import { computed, ref } from 'vue'
import { api, type Part } from '../../api/api'
import { useShow } from '../../live/show'
import { useModulators } from '../useModulators'
import ParameterControl from '../ParameterControl.vue'

const props = defineProps<{ ramp: string; part: Part; path: string; seen: (colour: string) => string }>()
const show = useShow()
const modulators = useModulators()
const values = computed(() => props.part.values as Record<string, number | string>)
const stops = computed(() =>
  Array.from({ length: Number(values.value.count) }, (_, i) => ({
    number: i + 1,
    place: Number(values.value[`place_${i + 1}`]),
    colour: props.seen(String(values.value[`colour_${i + 1}`])),
    opacity: Number(values.value[`opacity_${i + 1}`]),
  })),
)
const chosen = ref(1)
const at = computed(() => Math.min(chosen.value, stops.value.length))
const ordered = computed(() => [...stops.value].sort((a, b) => a.place - b.place))
const clear = ({ colour, opacity }: { colour: string; opacity: number }): string =>
  `color-mix(in srgb, ${colour} ${opacity * 100}%, transparent)`
const drawn = computed(() => {
  const steps = values.value.mix === 'in steps'
  const parts = ordered.value.map((stop, i, all) => {
    const until = steps ? (all[i + 1]?.place ?? 1) * 100 : stop.place * 100
    return `${clear(stop)} ${stop.place * 100}% ${until}%`
  })
  return `linear-gradient(to right in oklab, ${parts.join(', ')})`
})
const bar = ref<HTMLElement>()
const set = (name: string, value: unknown, gesture = ''): void =>
  show.set(`${props.path}/values/${name}`, value, 'Ramp', gesture)
function placeOf(event: PointerEvent): number {
  const box = bar.value!.getBoundingClientRect()
  return Math.round(Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * 1000) / 1000
}
function grab(number: number, event: PointerEvent): void {
  chosen.value = number
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function pull(number: number, event: PointerEvent): void {
  if (event.buttons) set(`place_${number}`, placeOf(event), `ramp-${number}`)
}
/** A new stop where the bar was clicked. */
function add(event: PointerEvent): void {
  const number = stops.value.length + 1
  api
    .addStop(props.ramp, placeOf(event))
    .then(() => (chosen.value = number))
    .catch(show.complain)
}
function takeAway(): void {
  api.removeStop(props.ramp, at.value).catch(show.complain)
}
const parameters = computed(() =>
  show
    .parametersOf(show.kindOf(props.part), values.value)
    .filter(({ name }) => name === 'mix' || name.endsWith(`_${at.value}`)),
)
const target = (name: string): string => `${props.part.id}.${name}`
</script>

<template>
  <div class="stops">
    <div ref="bar" class="bar" :style="{ backgroundImage: drawn }" data-ramp @pointerdown.self="add">
      <button
        v-for="stop in stops"
        :key="stop.number"
        class="stop"
        :class="{ here: stop.number === at }"
        :style="{ left: `${stop.place * 100}%`, background: stop.colour }"
        :aria-label="`Stop ${stop.number}`"
        @pointerdown="grab(stop.number, $event)"
        @pointermove="pull(stop.number, $event)"
      />
    </div>
    <p class="soft hint">
      {{ stops.length }} stops · click the bar for another
      <button class="button plain" @click="takeAway">Take stop {{ at }} away</button>
    </p>
    <div class="grid">
      <ParameterControl
        v-for="parameter in parameters"
        :key="parameter.name"
        :parameter="parameter"
        :value="values[parameter.name]!"
        :target="target(parameter.name)"
        :path="path"
        :index="show.indices.get(target(parameter.name))?.index"
        :modulators="modulators.get(target(parameter.name))"
        @change="(to, gesture) => set(parameter.name, to, gesture)"
      />
    </div>
  </div>
</template>

<style scoped>
.bar {
  position: relative;
  height: 26px;
  border-radius: 5px;
  border: 1px solid var(--edge-strong);
  background-color: var(--ground);
  cursor: copy;
}
.stop {
  position: absolute;
  bottom: -5px;
  width: 14px;
  height: 14px;
  padding: 0;
  transform: translateX(-50%);
  border: 2px solid var(--soft);
  border-radius: 50%;
  cursor: ew-resize;
  touch-action: none;
}
.stop.here {
  border-color: var(--text);
}
.hint {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin: 6px 0 2px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 4px 12px;
}
</style>
