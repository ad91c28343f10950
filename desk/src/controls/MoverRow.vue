<script setup lang="ts">
// One of what moves a parameter: another signal, its range, its amount of say; muted, removed.
import { api, type Route } from '../api/api'
import { useShow } from '../live/show'
import RouteEnds from '../route/RouteEnds.vue'
import { useNamed } from '../route/useNamed'
import Choice from './Choice.vue'

const props = defineProps<{ route: Route; target: string }>()
const emit = defineEmits<{ look: [] }>()
const show = useShow()
const { signals } = useNamed()
const exchange = (signal: string): void => {
  api.exchange(props.route.id, { signal }).catch(show.complain)
}
const path = `/routes/${props.route.id}`
const mute = (): void =>
  show.set(`${path}/muted`, !props.route.muted, props.route.muted ? 'Unmute route' : 'Mute route')
/** Of a route that moves more, only this is let go. */
function remove(): void {
  if (props.route.targets.length > 1) api.leadNoMore(props.route.id, props.target).catch(show.complain)
  else show.edit({ edit: 'remove', path }, 'Remove route')
}
</script>

<template>
  <div class="mover" :class="{ muted: route.muted }" :style="{ borderColor: show.colour(route.signal) }">
    <div class="row">
      <Choice
        class="grow"
        :value="route.signal"
        :options="signals"
        find
        label="What moves it"
        @choose="exchange"
      />
      <button class="button" :class="{ on: route.muted }" :aria-pressed="route.muted" @click="mute">
        {{ route.muted ? 'Muted' : 'Mute' }}
      </button>
      <button v-tooltip.top="'Its steps'" class="button" aria-label="Open the route" @click="emit('look')">
        <i class="pi pi-sliders-h" />
      </button>
      <button
        v-tooltip.top="'Let it go (undo brings it back)'"
        class="button plain"
        aria-label="Let it go"
        @click="remove"
      >
        <i class="pi pi-trash" />
      </button>
    </div>
    <div class="row ends"><RouteEnds :route="route" /></div>
  </div>
</template>

<style scoped>
.mover {
  border-left: 3px solid;
  padding-left: 8px;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.muted .ends {
  opacity: 0.5;
}
.row {
  gap: 5px;
}
.button {
  min-height: 32px;
}
.ends {
  flex-wrap: wrap;
}
</style>
