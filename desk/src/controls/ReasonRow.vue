<script setup lang="ts">
// Why a thing does not move, and the one action that cures it.
import { api, type Reason } from '../api/api'
import { giveBack } from '../live/live'
import { useShow } from '../live/show'

const props = defineProps<{ reason: Reason; route?: string; target?: string }>()
const emit = defineEmits<{ cured: [action: string] }>()
const show = useShow()
function cure(): void {
  const { edit, action, cure: name } = props.reason
  if (edit) show.edit(edit as Parameters<typeof show.edit>[0], name ?? 'Cure')
  else if (action === 'give-back' && props.target) giveBack(props.target)
  else if (action?.startsWith('fit ') && props.route)
    api.fit(props.route, action.slice(4)).catch(show.complain)
  emit('cured', action ?? '')
}
</script>

<template>
  <span class="reason" role="status"
    ><span>{{ reason.text }}</span
    ><button v-if="reason.cure" class="button" @click.stop="cure">{{ reason.cure }}</button></span
  >
</template>

<style scoped>
.reason {
  color: var(--bolt);
  font-size: 14px;
  display: inline-flex;
  align-items: center;
  gap: 8px;
  flex-wrap: wrap;
}
.button {
  min-height: 32px;
  padding: 0 9px;
  font-size: 13px;
}
</style>
