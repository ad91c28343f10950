<script setup lang="ts">
// What a route hears and all that it moves: exchanged, added to and taken away, its steps kept.
import { computed } from 'vue'
import { api, type Route } from '../api/api'
import Choice from '../controls/Choice.vue'
import { useShow } from '../live/show'
import { useAlike } from './useAlike'
import { useNamed } from './useNamed'

const props = defineProps<{ route: Route }>()
const show = useShow()
const { signals, parameters } = useNamed()
const alike = useAlike(props)
const others = computed(() => parameters.value.filter(({ value }) => !props.route.targets.includes(value)))
const inTurn = computed(() =>
  (props.route.shapers ?? []).some((part) => show.kindOf(part)?.lanes === 'turns'),
)
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
const hear = (signal: string): void => doing(api.exchange(props.route.id, { signal }))
function move(target: string, by: string): void {
  if (by !== target) doing(api.exchange(props.route.id, { target, by }))
}
const leadOn = (targets: string[]): void => doing(api.leadOn(props.route.id, targets))
</script>

<template>
  <div class="row way" :data-route="route.id">
    <span class="soft">hears</span>
    <Choice :value="route.signal" :options="signals" find label="What the route hears" @choose="hear" />
    <span class="soft">and moves</span>
    <span v-for="target in route.targets" :key="target" class="row one">
      <Choice
        :value="target"
        :options="[{ value: target, label: show.targetName(target) }, ...others]"
        find
        :label="`Moves ${show.targetName(target)}`"
        @choose="(by) => move(target, by)"
      /><button
        v-if="route.targets.length > 1"
        class="button plain less"
        :aria-label="`No more: ${show.targetName(target)}`"
        @click="doing(api.leadNoMore(route.id, target))"
      >
        <i class="pi pi-times" />
      </button>
    </span>
    <Choice
      :key="route.targets.length"
      :value="null"
      :options="others"
      placeholder="and …"
      find
      label="And one more"
      @choose="(target) => leadOn([target])"
    />
    <button v-if="alike.length" class="button" @click="leadOn(alike)">
      And the same of {{ alike.length }} more
    </button>
    <button
      v-if="route.targets.length > 1 && !inTurn"
      v-tooltip.top="'Each hit goes to the next of them'"
      class="button"
      @click="doing(api.takeTurns(route.id))"
    >
      In turn
    </button>
  </div>
</template>

<style scoped>
.way {
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 8px;
  font-size: 14px;
}
.one {
  gap: 0;
}
.less {
  min-width: 32px;
  padding: 0;
  justify-content: center;
}
.way :deep(.choice) {
  max-width: 220px;
}
</style>
