<script setup lang="ts">
// The rig large, the chosen lamps beside it, groups, palettes and chases at its foot; patch, channels and the wire are
// sheets that come over it.
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Palette } from '../api/api'
import AllLights from './AllLights.vue'
import { state } from '../live/live'
import { useShow } from '../live/show'
import ChasePanel from './ChasePanel.vue'
import { useChosen } from './chosen'
import GroupPanel from './GroupPanel.vue'
import HangLamps from './HangLamps.vue'
import LampPanel from './LampPanel.vue'
import PalettePanel from './PalettePanel.vue'
import RigTools from './RigTools.vue'
import RigView from './RigView.vue'
import Shelves from './Shelves.vue'
import { useClashes } from './useClashes'

const PatchSheet = defineAsyncComponent(() => import('./PatchSheet.vue'))
const ChannelSheet = defineAsyncComponent(() => import('./ChannelSheet.vue'))
const WireSheet = defineAsyncComponent(() => import('./WireSheet.vue'))
const show = useShow()
const chosen = useChosen()
const { bad } = useClashes()
const sheet = ref<'' | 'patch' | 'channels' | 'wire'>('')
const lights = computed(() => state.value.lights)
const focused = computed(() => ('id' in chosen.focus ? chosen.focus.id : ''))
const chase = computed(() => show.document?.chases?.find((chase) => chase.id === focused.value))
const palette = computed(
  () => show.document?.palettes?.find((own) => own.id === focused.value) as Palette | undefined,
)
const group = computed(
  () => show.document?.groups?.find((group) => group.id === focused.value) ?? chosen.group,
)
</script>

<template>
  <div class="top row">
    <h2>Lights</h2>
    <HangLamps />
    <button class="button" :class="{ danger: bad.size }" @click="sheet = 'patch'">
      Patch<span v-if="bad.size" class="num">{{ bad.size }}</span>
    </button>
    <button class="button" @click="sheet = 'channels'">Channels</button>
    <button class="button" :class="{ danger: lights?.fault }" @click="sheet = 'wire'">Wire</button>
    <span class="grow" />
    <span v-if="lights?.fault" class="bad" role="alert">{{ lights.fault.text }}</span>
    <span v-else class="soft"
      ><span class="num">{{ lights?.sent ?? 0 }}</span> packets sent</span
    >
  </div>
  <div class="body">
    <div class="left">
      <RigTools />
      <RigView data-rig />
      <Shelves />
    </div>
    <aside class="scroll">
      <AllLights />
      <ChasePanel v-if="chosen.focus.on === 'chase' && chase" :key="chase.id" :chase="chase" />
      <PalettePanel
        v-else-if="chosen.focus.on === 'palette' && palette"
        :key="palette.id"
        :palette="palette"
      />
      <template v-else>
        <GroupPanel v-if="group" :key="group.id" :group="group" />
        <LampPanel v-if="chosen.chosen.length" />
        <p v-else-if="!group" class="soft">
          Press a lamp, or pull a box round several: what they can do stands here, and what moves them.
        </p>
      </template>
    </aside>
  </div>
  <PatchSheet v-if="sheet === 'patch'" @close="sheet = ''" />
  <ChannelSheet v-if="sheet === 'channels'" @close="sheet = ''" />
  <WireSheet v-if="sheet === 'wire'" @close="sheet = ''" />
</template>

<style>
.p-drawer-bottom .p-drawer.sheet {
  height: 76vh;
}
</style>

<style scoped>
.top {
  min-height: 36px;
  gap: 8px;
  margin-bottom: 6px;
}
.body {
  flex: 1;
  display: flex;
  gap: 12px;
  min-height: 0;
}
.left {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
aside {
  flex: 0 0 300px;
}
.bad {
  color: var(--alarm);
  font-size: 14px;
}
</style>
