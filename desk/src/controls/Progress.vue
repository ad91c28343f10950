<script setup lang="ts">
// How far something that takes its time has come, and a way to break it off.
import ProgressBar from 'primevue/progressbar'
import { computed } from 'vue'

const props = defineProps<{ says: string; share: number }>()
const emit = defineEmits<{ stop: [] }>()
const percent = computed(() => Math.round(props.share * 100))
</script>

<template>
  <div class="row">
    <span class="grow says">{{ says }}</span><span class="num">{{ percent }} %</span>
  </div>
  <ProgressBar class="progress" :value="percent" :show-value="false" :aria-label="says" />
  <button class="button" @click="emit('stop')">Break off</button>
</template>

<style scoped>
.says {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 14px;
}
.progress {
  height: 8px;
  margin-bottom: 6px;
}
</style>
