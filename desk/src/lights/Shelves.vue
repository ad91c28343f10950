<script setup lang="ts">
// Three shelves to grab from: groups, palettes, chases. Press one, or pull it onto lamps.
import { computed } from 'vue'
import { api, type Chase, type Palette } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import { useShow } from '../live/show'
import { carriedTile, carryTile } from './carryTile'
import ChaseStrip from './ChaseStrip.vue'
import { useChosen } from './chosen'
import GroupDots from './GroupDots.vue'
import ShelfTile from './ShelfTile.vue'

const show = useShow()
const chosen = useChosen()
const groups = computed(() => show.document?.groups ?? [])
const palettes = computed(() => (show.document?.palettes ?? []) as Palette[])
const chases = computed(() => show.document?.chases ?? [])
const doing = (what: Promise<unknown>): void => {
  what.catch(show.complain)
}
/** News of the document come a moment after the answer. */
const NEWS_MS = 150
async function make(what: Promise<{ id: string }>, on: 'group' | 'chase' | 'palette'): Promise<void> {
  try {
    const { id } = await what
    setTimeout(() => chosen.open(on, id), NEWS_MS)
  } catch (error) {
    show.complain(error)
  }
}
const isOpen = (on: string, id: string): boolean =>
  chosen.focus.on === on && 'id' in chosen.focus && chosen.focus.id === id
const running = (chase: Chase): boolean => (chase.runs ?? []).some((run) => run.part.values?.running)
const onto = (lamp: string): string[] => (chosen.set.has(lamp) ? chosen.ids : [lamp])
const recall = (palette: Palette, ids: string[]): void => doing(api.palettes.recall(palette.id, ids))
function pullPalette(event: PointerEvent, palette: Palette): void {
  carryTile(event, palette.name, {
    lamp: (lamp) => recall(palette, onto(lamp)),
    tile: (kind, id) => {
      const members = groups.value.find((group) => group.id === id)?.members
      if (kind === 'group' && members) recall(palette, members)
    },
  })
}
function pullChase(event: PointerEvent, chase: Chase): void {
  carryTile(event, chase.name, {
    tile: (kind, id) => {
      if (kind === 'group') doing(api.chases.runOn(chase.id, id))
    },
  })
}
function pullGroup(event: PointerEvent, group: { id: string; name: string }): void {
  carryTile(event, group.name, {
    tile: (kind, id) => {
      if (kind === 'chase') doing(api.chases.runOn(id, group.id))
      if (kind === 'palette')
        doing(api.palettes.recall(id, groups.value.find((own) => own.id === group.id)!.members!))
    },
  })
}
const KINDS = [
  { value: 'colour', label: 'Their colours' },
  { value: 'position', label: 'Where they point' },
  { value: 'state', label: 'All that they show' },
] as const
const marks = { colour: '', position: 'pi-compass', state: 'pi-sun' }
const newChase = (): void => {
  const on = chosen.group ? [chosen.group.id] : []
  void make(api.chases.add(on), 'chase')
}
</script>

<template>
  <div class="shelves">
    <section aria-label="Groups">
      <span class="soft title">Groups</span>
      <button
        class="button add"
        aria-label="Make the chosen lamps a group"
        :disabled="!chosen.ids.length"
        @click="make(api.lamps.group(chosen.ids), 'group')"
      >
        <i class="pi pi-plus" />
      </button>
      <div class="tiles">
        <ShelfTile
          v-for="group in groups"
          v-bind="{ id: group.id, name: group.name, on: chosen.group?.id === group.id }"
          :key="group.id"
          kind="group"
          :open="isOpen('group', group.id)"
          says="Press: its lamps are chosen. Pull it onto a chase or a palette"
          @press="chosen.open('group', group.id)"
          @open="chosen.open('group', group.id)"
          @pull="pullGroup($event, group)"
        >
          <GroupDots :members="group.members ?? []" />
        </ShelfTile>
      </div>
    </section>
    <section aria-label="Palettes">
      <span class="soft title">Palettes</span>
      <ActMenu
        class="add"
        title=""
        icon="pi-plus"
        label="Keep what the chosen lamps show as a palette"
        :disabled="!chosen.ids.length"
        :options="KINDS"
        @choose="(kind) => make(api.palettes.keep(chosen.ids, kind), 'palette')"
      />
      <div class="tiles">
        <ShelfTile
          v-for="palette in palettes"
          :id="palette.id"
          :key="palette.id"
          kind="palette"
          :name="palette.name"
          :open="isOpen('palette', palette.id)"
          says="Press: the chosen lamps take it, or those that it was made from. Pull it onto lamps"
          @press="recall(palette, chosen.ids)"
          @open="chosen.open('palette', palette.id)"
          @pull="pullPalette($event, palette)"
        >
          <span class="swatches">
            <i v-if="marks[palette.kind]" class="pi" :class="marks[palette.kind]" />
            <b
              v-for="(colour, index) in palette.colours.slice(0, 6)"
              :key="index"
              :style="{ background: colour }"
            />
          </span>
        </ShelfTile>
      </div>
    </section>
    <section aria-label="Chases">
      <span class="soft title">Chases</span>
      <button class="button add" aria-label="Make a chase" @click="newChase">
        <i class="pi pi-plus" />
      </button>
      <div class="tiles">
        <ShelfTile
          v-for="chase in chases"
          :id="chase.id"
          :key="chase.id"
          kind="chase"
          :name="chase.name"
          :on="running(chase)"
          :open="isOpen('chase', chase.id)"
          says="Press: it starts or stops. Pull it onto a group"
          @press="doing(api.chases.run(chase.id, !running(chase)))"
          @open="chosen.open('chase', chase.id)"
          @pull="pullChase($event, chase)"
        >
          <ChaseStrip :chase="chase" />
        </ShelfTile>
      </div>
    </section>
    <div v-if="carriedTile" class="ghost" :style="{ left: `${carriedTile.x}px`, top: `${carriedTile.y}px` }">
      {{ carriedTile.name }}
    </div>
  </div>
</template>

<style scoped>
.shelves {
  flex: none;
}
section {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 62px;
}
.title {
  width: 60px;
  font-size: 14px;
}
.add,
.add :deep(.button) {
  min-height: 40px;
  min-width: 36px;
  padding: 0 9px;
}
.tiles {
  display: flex;
  gap: 6px;
  overflow-x: auto;
  scrollbar-width: none;
  padding: 2px;
  min-width: 0;
}
.swatches {
  display: flex;
  gap: 3px;
  height: 22px;
  align-items: center;
}
.swatches b {
  flex: 1;
  height: 100%;
  border-radius: 4px;
}
.ghost {
  position: fixed;
  z-index: 1200;
  pointer-events: none;
  transform: translate(10px, 10px);
  padding: 4px 10px;
  border-radius: 7px;
  background: var(--raised);
  border: 1px solid var(--bolt);
}
</style>
