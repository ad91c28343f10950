<script setup lang="ts">
// One of the layers of the look that this parameter's part belongs to.
import { computed } from 'vue'
import { plan } from '../../live/live'
import { useShow } from '../../live/show'
import Choice from '../Choice.vue'
import type { ControlEmits, ControlProps } from './parameter'

const props = defineProps<ControlProps>()
const emit = defineEmits<ControlEmits>()
const show = useShow()
const part = computed(() => props.target?.split('.')[0])
const look = computed(() =>
  show.document?.looks.find((look) =>
    [
      ...(look.finish ?? []),
      ...(look.layers ?? []).flatMap((layer) => [layer.source, ...(layer.effects ?? []), layer.mix]),
    ].some((other) => other.id === part.value),
  ),
)
const options = computed(() => [
  { value: '', label: 'no layer' },
  ...(look.value?.layers ?? []).map((layer) => ({ value: layer.id!, label: layer.name! })),
])
const delayed = computed(() => !!props.target && !!plan.value?.delayed_inputs?.includes(props.target))
</script>

<template>
  <Choice
    :value="String(value)"
    :options="options"
    :label="parameter.title"
    @choose="(to) => emit('change', to, '')"
  />
  <small v-if="delayed" class="soft">That layer is drawn later, so its picture comes one frame late.</small>
</template>
