<script setup lang="ts">
// Walls, masks and blending: how an output fits what it shines on.
import { computed } from 'vue'
import { api, type Output } from '../api/api'
import Choice from '../controls/Choice.vue'
import NumberChip from '../controls/NumberChip.vue'
import Toggle from '../controls/Toggle.vue'
import { chooseMask, chooseWall, fitting } from './chosen'
import { useOutputEdits } from './useOutputEdits'

const props = defineProps<{ output: Output }>()
const { set, remove, done } = useOutputEdits(() => props.output)
const id = computed(() => props.output.id!)
const walls = computed(() => props.output.walls ?? [])
const masks = computed(() => props.output.masks ?? [])
const blend = computed(() => props.output.blend ?? {})
const COUNTS = [2, 3, 4, 5, 6, 7, 8, 9].map((value) => ({ value, label: String(value) }))
const KEEPS = [
  { value: 'inside', label: 'Shows its inside' },
  { value: 'outside', label: 'Shows its outside' },
] as const
const SHAPES = ['rectangle', 'triangle', 'round'] as const
const PIECE = [
  ['x', 'Left'],
  ['y', 'Top'],
  ['width', 'Width'],
  ['height', 'Height'],
] as const
const EDGES = ['left', 'right', 'top', 'bottom'] as const

async function addWall(): Promise<void> {
  await done(api.outputs.addWall(id.value).then((made) => chooseWall(made.id)))
}
async function addMask(shape: (typeof SHAPES)[number]): Promise<void> {
  await done(api.outputs.addMask(id.value, shape).then((made) => chooseMask(made.id)))
}
</script>

<template>
  <h3>Walls</h3>
  <div v-for="wall in walls" :key="wall.id" class="item" :class="{ chosen: fitting.wall === wall.id }">
    <div class="row">
      <button
        class="button plain grow"
        :aria-pressed="fitting.wall === wall.id"
        @click="chooseWall(wall.id!)"
      >
        {{ wall.name }}
      </button>
      <Toggle
        :value="wall.on!"
        :label="`${wall.name} is on`"
        @change="(on) => set(`walls/${wall.id}/on`, on)"
      />
      <button class="button plain" :aria-label="`Remove ${wall.name}`" @click="remove(`walls/${wall.id}`)">
        <i class="pi pi-times" />
      </button>
    </div>
    <template v-if="fitting.wall === wall.id">
      <div class="row">
        <span class="soft">Grid</span>
        <Choice
          :value="wall.grid!.columns"
          :options="COUNTS"
          label="Points across"
          @choose="(many) => done(api.outputs.bend(id, wall.id!, many, wall.grid!.rows!))"
        />
        by
        <Choice
          :value="wall.grid!.rows"
          :options="COUNTS"
          label="Points down"
          @choose="(many) => done(api.outputs.bend(id, wall.id!, wall.grid!.columns!, many))"
        />
      </div>
      <div class="row">
        <label v-for="[side, name] in PIECE" :key="side" class="soft"
          >{{ name }}
          <NumberChip
            :value="(wall.cut?.[side] ?? 0) * 100"
            :low="side === 'width' || side === 'height' ? 1 : 0"
            :high="100"
            unit="%"
            :label="`${name} of its piece of the picture`"
            @change="
              (value, gesture) => set(`walls/${wall.id}/cut`, { ...wall.cut, [side]: value / 100 }, gesture)
            "
          />
        </label>
      </div>
    </template>
  </div>
  <div class="row">
    <button class="button" @click="addWall">+ Wall</button>
    <button v-if="walls.length || masks.length" class="button" @click="done(api.outputs.straighten(id))">
      Straighten all
    </button>
  </div>
  <h3>Masks</h3>
  <div v-for="mask in masks" :key="mask.id" class="item" :class="{ chosen: fitting.mask === mask.id }">
    <div class="row">
      <button
        class="button plain grow"
        :aria-pressed="fitting.mask === mask.id"
        @click="chooseMask(mask.id!)"
      >
        {{ mask.name }}
      </button>
      <button class="button plain" :aria-label="`Remove ${mask.name}`" @click="remove(`masks/${mask.id}`)">
        <i class="pi pi-times" />
      </button>
    </div>
    <div v-if="fitting.mask === mask.id" class="row">
      <Choice
        :value="mask.keeps"
        :options="KEEPS"
        label="Which side is shown"
        @choose="(side) => set(`masks/${mask.id}/keeps`, side)"
      />
      <label class="soft"
        >Soft
        <NumberChip
          :value="mask.soft! * 100"
          :low="0"
          :high="50"
          unit="%"
          label="How soft its edge is"
          @change="(value, gesture) => set(`masks/${mask.id}/soft`, value / 100, gesture)"
        />
      </label>
    </div>
  </div>
  <div class="row">
    <button v-for="shape in SHAPES" :key="shape" class="button" @click="addMask(shape)">+ {{ shape }}</button>
  </div>
  <h3>Fades into its neighbours</h3>
  <div class="row">
    <label v-for="edge in EDGES" :key="edge" class="soft"
      >{{ edge }}
      <NumberChip
        :value="(blend[edge] ?? 0) * 100"
        :low="0"
        :high="50"
        unit="%"
        :label="`Fades at the ${edge}`"
        @change="(value, gesture) => set('blend', { ...blend, [edge]: value / 100 }, gesture)"
      />
    </label>
    <label class="soft"
      >power
      <NumberChip
        :value="blend.power ?? 2"
        :low="1"
        :high="5"
        label="Power of the curve"
        @change="(value, gesture) => set('blend', { ...blend, power: value }, gesture)"
      />
    </label>
    <label class="soft"
      >gamma
      <NumberChip
        :value="blend.gamma ?? 2.2"
        :low="1"
        :high="3"
        label="Gamma of what throws the light"
        @change="(value, gesture) => set('blend', { ...blend, gamma: value }, gesture)"
      />
    </label>
  </div>
</template>

<style scoped>
h3 {
  margin: 8px 0 0;
  font-size: 14px;
}
.item {
  border: 1px solid var(--edge);
  border-radius: 8px;
  padding: 4px 6px;
}
.chosen {
  border-color: var(--bolt);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.grow {
  flex: 1;
  text-align: left;
}
.row label {
  display: flex;
  flex-direction: column;
  font-size: 12px;
}
</style>
