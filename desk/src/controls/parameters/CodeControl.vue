<script setup lang="ts">
import CodeEditor from '../../editors/CodeEditor.vue'
import type { ControlProps } from './parameter'

defineProps<ControlProps>()
</script>

<template>
  <CodeEditor :code="String(value)" :path="path ?? ''" :label="parameter.title" />
</template>
