<script setup lang="ts">
// Something of a shelf to take with a thumb: press it, pull it, or open it at its corner.
defineProps<{ kind: string; id: string; name: string; on?: boolean; open?: boolean; says: string }>()
const PATHS: Record<string, string> = { group: '/groups', chase: '/chases' }
const emit = defineEmits<{ press: []; open: []; pull: [event: PointerEvent] }>()
</script>

<template>
  <div
    class="tile"
    :class="{ on, open }"
    :data-tile="kind"
    :data-id="id"
    :data-path="PATHS[kind] && `${PATHS[kind]}/${id}`"
  >
    <button
      v-tooltip.top="says"
      class="face"
      :aria-label="`${kind} ${name}`"
      :aria-pressed="on"
      @click="emit('press')"
      @pointerdown="emit('pull', $event)"
    >
      <span class="picture"><slot /></span>
      <span class="name">{{ name }}</span>
    </button>
    <button class="corner" :aria-label="`Open the ${kind} ${name}`" @click="emit('open')">
      <i class="pi pi-ellipsis-h" />
    </button>
  </div>
</template>

<style scoped>
.tile {
  position: relative;
  flex: 0 0 auto;
  width: 104px;
  border: 1px solid var(--edge);
  border-radius: 9px;
  background: var(--raised);
}
.tile:hover {
  border-color: var(--edge-strong);
}
.tile.open {
  border-color: var(--hand);
}
.tile.on {
  border-color: var(--bolt);
}
.face {
  width: 100%;
  background: none;
  border: 0;
  padding: 6px 7px 5px;
  text-align: left;
  cursor: grab;
  touch-action: none;
  color: inherit;
}
.picture {
  display: block;
  height: 26px;
}
.name {
  display: block;
  font-size: 13px;
  line-height: 18px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  padding-right: 20px;
}
.corner {
  position: absolute;
  right: 0;
  bottom: 0;
  width: 28px;
  height: 28px;
  background: none;
  border: 0;
  color: var(--soft);
  cursor: pointer;
}
</style>
