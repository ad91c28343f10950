<script setup lang="ts">
// What an output shows, how large, on what ground; and what is done with it at once.
import { computed } from 'vue'
import { api, type Output } from '../api/api'
import Choice from '../controls/Choice.vue'
import Field from '../controls/Field.vue'
import NameField from '../controls/NameField.vue'
import NumberChip from '../controls/NumberChip.vue'
import { outputStates } from '../live/outputs'
import { useShow } from '../live/show'
import LongPress from '../run/LongPress.vue'
import FitPanel from './FitPanel.vue'
import { useOutputEdits } from './useOutputEdits'

const props = defineProps<{ output: Output }>()
const emit = defineEmits<{ removed: [] }>()
const show = useShow()
const { set, turn, done } = useOutputEdits(() => props.output)
const state = computed(() => outputStates.value[props.output.id!])
const looks = computed(() => [
  { value: '', label: 'What plays' },
  ...(show.document?.looks ?? []).map((look) => ({ value: look.id, label: look.name })),
])
const inputs = computed(() => [
  { value: '', label: 'The main input' },
  ...(show.document?.inputs ?? []).slice(1).map((input) => ({ value: input.id!, label: input.name! })),
])
const others = computed(() => [
  { value: '', label: 'Fit it like…' },
  ...(show.document?.outputs ?? [])
    .filter((each) => each.id !== props.output.id)
    .map((each) => ({ value: each.id!, label: each.name })),
])
const GROUNDS = [
  { value: 'black', label: 'Black' },
  { value: 'transparent', label: 'Transparent, for a stream' },
] as const
const CARDS = [
  { value: 'off', label: 'No test card' },
  { value: 'grid', label: 'Grid' },
  { value: 'circle', label: 'Circles' },
  { value: 'colours', label: 'Colours' },
] as const
const CUT = [
  ['x', 'Left'],
  ['y', 'Top'],
  ['width', 'Width'],
  ['height', 'Height'],
] as const
const address = computed(() => `${location.origin}/output/${props.output.address}`)
function fitLike(other: string): void {
  if (other) void done(api.outputs.fitLike(props.output.id!, other))
}
async function remove(): Promise<void> {
  if (await done(api.outputs.remove(props.output.id!))) emit('removed')
}
</script>

<template>
  <aside class="scroll">
    <NameField
      class="name"
      :value="output.name"
      label="Name of the output"
      @change="(name) => done(api.outputs.rename(output.id!, name))"
    />
    <p role="status" :class="{ bad: state?.trouble }">{{ state?.words }}</p>
    <div class="row">
      <button class="button" :class="{ on: output.frozen }" @click="turn('frozen')">Freeze</button>
      <button class="button" :class="{ on: output.black }" @click="turn('black')">Black</button>
      <button class="button" @click="done(api.outputs.identify(output.id!))">Identify</button>
      <a class="button" :href="`/api/v1/outputs/${output.id}/picture.png`" download>This moment</a>
    </div>
    <Choice :value="output.card" :options="CARDS" label="Test card" @choose="(card) => set('card', card)" />
    <h3>Shows</h3>
    <Choice :value="output.look" :options="looks" label="Look" @choose="(look) => set('look', look)" />
    <Choice
      :value="output.input"
      :options="inputs"
      label="Draws the sound of"
      @choose="(input) => set('input', input)"
    />
    <div class="row">
      <label v-for="[side, name] in CUT" :key="side" class="soft"
        >{{ name }}
        <NumberChip
          :value="(output.cut?.[side] ?? 0) * 100"
          :low="side === 'width' || side === 'height' ? 1 : 0"
          :high="100"
          unit="%"
          :label="`${name} of the piece`"
          @change="(value, gesture) => set('cut', { ...output.cut, [side]: value / 100 }, gesture)"
        />
      </label>
    </div>
    <h3>Screen</h3>
    <div class="row">
      <Field label="Width" :value="output.width!" @change="(text) => set('width', Number(text))" />
      <Field label="Height" :value="output.height!" @change="(text) => set('height', Number(text))" />
      <Field label="Pictures/s" :value="output.rate!" @change="(text) => set('rate', Number(text))" />
    </div>
    <Choice :value="output.ground" :options="GROUNDS" label="Ground" @choose="(to) => set('ground', to)" />
    <div class="row">
      <label class="soft"
        >Level
        <NumberChip
          :value="output.level! * 100"
          :low="0"
          :high="100"
          unit="%"
          label="Level"
          @change="(value, gesture) => set('level', value / 100, gesture)"
        />
      </label>
      <label class="soft"
        >Gamma
        <NumberChip
          :value="output.gamma!"
          :low="0.3"
          :high="3"
          label="Gamma"
          @change="(value, gesture) => set('gamma', value, gesture)"
        />
      </label>
    </div>
    <FitPanel :output="output" />
    <h3>Address</h3>
    <code class="address">{{ address }}</code>
    <div class="row">
      <Field
        label="Ends in"
        wide
        :value="output.address"
        @change="(text) => done(api.outputs.readdress(output.id!, text))"
      />
    </div>
    <div class="row">
      <Choice value="" :options="others" label="Fit it like another output" @choose="fitLike" />
      <button class="button" @click="done(api.outputs.copy(output.id!))">Copy</button>
      <LongPress label="Remove output" @done="remove">Remove</LongPress>
    </div>
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow: auto;
  padding-right: 6px;
}
.name {
  font-size: 18px;
}
h3 {
  margin: 8px 0 0;
  font-size: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.row label {
  display: flex;
  flex-direction: column;
  font-size: 12px;
}
p {
  margin: 0;
}
.bad {
  color: var(--alarm);
}
.address {
  user-select: all;
  word-break: break-all;
}
</style>
