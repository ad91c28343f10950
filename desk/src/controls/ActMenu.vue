<script setup lang="ts" generic="T extends string">
// A button that opens a list of things to do; what is chosen is done at once.
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'

const props = defineProps<{
  title: string
  label?: string
  icon?: string
  options: readonly { value: T; label: string; help?: string }[]
  disabled?: boolean
}>()
const emit = defineEmits<{ choose: [value: T] }>()
const menu = ref<InstanceType<typeof Menu>>()
const items = computed(() =>
  props.options.map((option) => ({
    label: option.label,
    help: option.help,
    value: option.value,
  })),
)
</script>

<template>
  <button
    type="button"
    class="button"
    aria-haspopup="menu"
    :disabled="disabled"
    :aria-label="label ?? title"
    @click="menu?.toggle($event)"
  >
    <i v-if="icon" class="pi" :class="icon" />{{ title }}
  </button>
  <Menu ref="menu" popup :model="items" :aria-label="label ?? title">
    <template #item="{ item, props: own }"
      ><!-- A click counts also while the list closes because the page scrolls. --><a
        v-bind="own.action"
        @click="emit('choose', item.value as T)"
        ><span
          >{{ item.label }}<small v-if="item.help" class="soft">{{ item.help }}</small></span
        ></a
      ></template
    >
  </Menu>
</template>

<style scoped>
small {
  display: block;
  font-size: 13px;
}
</style>
