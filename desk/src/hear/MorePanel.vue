<script setup lang="ts">
// More than bands: every other thing that is heard, as a live trace with what it means.
import { computed } from 'vue'
import { useShow } from '../live/show'
import { tokens } from '../tokens'
import Trace from '../controls/Trace.vue'
import { Block } from '../live/wire'

const show = useShow()
const rows = computed(() =>
  [...show.signals.values()].filter(
    (signal) => signal.kind === 'descriptor' && signal.input === show.input?.id,
  ),
)
</script>

<template>
  <div class="card">
    <div v-for="row in rows" :key="row.id" v-tooltip.left="row.help" class="one">
      <span>{{ row.name }}</span>
      <div class="trace">
        <Trace
          :block="Block.signals"
          :index="row.index"
          :low="0"
          :high="1"
          :colour="tokens.text"
          :label="`${row.name}, live`"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.one {
  display: flex;
  align-items: center;
  gap: 8px;
  font-size: 14px;
}
.one span {
  width: 96px;
}
.trace {
  flex: 1;
  height: 34px;
  min-width: 0;
}
</style>
