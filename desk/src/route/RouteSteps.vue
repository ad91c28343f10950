<script setup lang="ts">
// A route's steps in the order in which a value goes through them, each with what comes out of it. Saved chains of steps.
import { computed, ref } from 'vue'
import { api, type Part, type Route } from '../shared/api'
import LineEditor from '../shared/LineEditor.vue'
import NumberChip from '../shared/NumberChip.vue'
import { useShow } from '../shared/show'
import { tokens } from '../shared/tokens'
import Trace from '../shared/Trace.vue'
import { Block } from '../shared/wire'

const props = defineProps<{ route: Route; colour: string }>()
const show = useShow()
const path = computed(() => `/routes/${props.route.id}`)
const shapers = computed(() => props.route.shapers ?? [])
const stage = computed(() => show.stages.get(props.route.id))
const kinds = computed(() => show.kinds.filter((kind) => kind.family === 'shaper'))
const chains = computed(() => show.document?.chains ?? [])
const chain = computed(() => chains.value.find((one) => one.id === props.route.chain))
const chainChanged = computed(
  () => chain.value !== undefined && JSON.stringify(chain.value.shapers) !== JSON.stringify(shapers.value),
)
const keeping = ref('')
const users = ref<string[] | null>(null)
const fitted = ref('')
const at = (part: Part, name: string): unknown => (part.values as Record<string, unknown>)[name]
const set = (part: Part, name: string, value: unknown, gesture = ''): void =>
  show.set(`${path.value}/shapers/${part.id}/values/${name}`, value, `Route ${part.kind}`, gesture)

function add(event: Event): void {
  const box = event.target as HTMLSelectElement
  const kind = box.value
  box.value = ''
  let id = kind
  for (let n = 2; shapers.value.some((one) => one.id === id); n++) id = `${kind}-${n}`
  show.edit({ edit: 'add', path: `${path.value}/shapers`, item: { id, kind } }, `Add ${kind}`)
}
const move = (part: Part, to: number): void =>
  show.edit({ edit: 'move', path: `${path.value}/shapers/${part.id}`, index: to }, `Move ${part.kind}`)
async function fit(part: Part): Promise<void> {
  try {
    const found = await api.fit(props.route.id, part.id)
    const say = (numbers: number[]): string => numbers.map((n) => n.toFixed(2)).join(' to ')
    fitted.value = `${show.kind(part.kind)?.title} was ${say(found.before)}; fitted to the last ten seconds it is ${say(found.after)}.`
  } catch (error) {
    show.complain(error)
  }
}
async function keep(): Promise<void> {
  try {
    await api.keepChain(props.route.id, keeping.value.trim())
    keeping.value = ''
  } catch (error) {
    show.complain(error)
  }
}
async function update(all?: boolean): Promise<void> {
  try {
    const others = (await api.chainUsers(chain.value!.id)).filter((id) => id !== props.route.id)
    if (others.length && all === undefined) {
      users.value = others
      return
    }
    await api.changeChain(chain.value!.id, props.route.id, !!all)
    users.value = null
  } catch (error) {
    show.complain(error)
  }
}
function take(event: Event): void {
  const box = event.target as HTMLSelectElement
  if (box.value) api.takeChain(box.value, props.route.id).catch(show.complain)
  box.value = ''
}
</script>

<template>
  <div>
    <div class="way">
      <section
        v-for="(part, i) in shapers"
        :key="part.id"
        class="step"
        :class="{ off: !part.on }"
        :data-shaper="part.id"
      >
        <div class="row head">
          <strong v-tooltip.top="show.kind(part.kind)?.help">{{ show.kind(part.kind)?.title }}</strong><span
            class="grow"
          />
          <button
            class="tiny"
            :disabled="i === 0"
            :aria-label="`${part.kind} earlier`"
            @click="move(part, i - 1)"
          >
            <i class="pi pi-arrow-left" />
          </button>
          <button
            class="tiny"
            :disabled="i === shapers.length - 1"
            :aria-label="`${part.kind} later`"
            @click="move(part, i + 1)"
          >
            <i class="pi pi-arrow-right" />
          </button>
          <button
            v-tooltip.top="part.on ? 'Switch it off' : 'Switch it on'"
            class="tiny"
            :aria-pressed="part.on"
            :aria-label="`${part.kind} ${part.on ? 'off' : 'on'}`"
            @click="
              show.set(`${path}/shapers/${part.id}/on`, !part.on, `${part.kind} ${part.on ? 'off' : 'on'}`)
            "
          >
            <i class="pi" :class="part.on ? 'pi-eye' : 'pi-eye-slash'" />
          </button>
          <button
            class="tiny"
            :aria-label="`Remove ${part.kind}`"
            @click="show.edit({ edit: 'remove', path: `${path}/shapers/${part.id}` }, `Remove ${part.kind}`)"
          >
            <i class="pi pi-times" />
          </button>
        </div>
        <div class="pair">
          <Trace
            v-if="stage"
            :key="`in-${stage.first + i}`"
            :block="Block.routes"
            :index="stage.first + i"
            :low="0"
            :high="1"
            :colour="tokens.soft"
            label="What comes in"
          />
          <Trace
            v-if="stage"
            :key="`out-${stage.first + i + 1}`"
            :block="Block.routes"
            :index="stage.first + i + 1"
            :low="0"
            :high="1"
            :colour="colour"
            label="What comes out"
          />
        </div>
        <div v-for="one in show.parametersOf(part.kind, part.values ?? {})" :key="one.name" class="row one">
          <span v-tooltip.top="one.help" class="soft">{{ one.title }}</span><span class="grow" />
          <NumberChip
            v-if="one.type === 'number'"
            :value="Number(at(part, one.name))"
            :low="one.low!"
            :high="one.high!"
            :label="`${part.kind} ${one.title}`"
            :unit="one.unit"
            @change="(to, gesture) => set(part, one.name, to, gesture)"
          />
          <button
            v-else-if="one.type === 'toggle'"
            class="button"
            :class="{ on: at(part, one.name) }"
            :aria-pressed="!!at(part, one.name)"
            @click="set(part, one.name, !at(part, one.name))"
          >
            {{ at(part, one.name) ? 'On' : 'Off' }}
          </button>
          <select
            v-else-if="one.type === 'choice'"
            class="button"
            :value="at(part, one.name)"
            :aria-label="`${part.kind} ${one.title}`"
            @change="set(part, one.name, ($event.target as HTMLSelectElement).value)"
          >
            <option v-for="choice in one.choices" :key="choice">{{ choice }}</option>
          </select>
          <select
            v-else-if="one.type === 'signal'"
            class="button"
            :value="at(part, one.name)"
            :aria-label="`${part.kind} ${one.title}`"
            @change="set(part, one.name, ($event.target as HTMLSelectElement).value)"
          >
            <option value="">{{ part.kind === 'mix' ? 'nothing' : 'what comes in' }}</option>
            <option v-for="signal in show.signals.values()" :key="signal.id" :value="signal.id">
              {{ signal.title }}
            </option>
          </select>
          <LineEditor
            v-else-if="one.type === 'points'"
            small
            :points="at(part, one.name) as [number, number][]"
            :label="one.title"
            @change="(points, gesture) => set(part, one.name, points, gesture)"
          />
        </div>
        <button
          v-if="part.kind === 'range' || part.kind === 'gate'"
          v-tooltip.bottom="
            part.kind === 'range'
              ? 'To nine tenths of what came in the last ten seconds'
              : 'Between the small and the large peaks of the last ten seconds'
          "
          class="button fit"
          @click="fit(part)"
        >
          Fit to what comes
        </button>
      </section>
      <p v-if="!shapers.length" class="soft">No steps: what comes in moves it as it is.</p>
    </div>
    <p v-if="fitted" class="row told" role="status">
      {{ fitted }}
      <button class="button" @click="show.step('undo').then(() => (fitted = ''))">Take it back</button>
    </p>
    <div class="row under">
      <select class="button" aria-label="Add a shaper" @change="add">
        <option value="">Add a step…</option>
        <option v-for="kind in kinds" :key="kind.kind" :value="kind.kind">
          {{ kind.title }} — {{ kind.help?.split(/[.:;]/)[0] }}
        </option>
      </select>
      <select v-if="chains.length" class="button" aria-label="Take saved steps" @change="take">
        <option value="">Take saved steps…</option>
        <option v-for="one in chains" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <span class="grow" />
      <template v-if="users"
        ><span
          >{{ users.length === 1 ? 'One other route uses' : `${users.length} other routes use` }} “{{
            chain?.name
          }}”.</span
        ><button class="button on" @click="update(true)">
          Update {{ users.length === 1 ? 'it' : 'them' }} too</button
        ><button class="button" @click="update(false)">Only the saved one</button></template
      >
      <template v-else-if="chain"
        ><span class="soft">from “{{ chain.name }}”{{ chainChanged ? ', changed' : '' }}</span
        ><button v-if="chainChanged" class="button" @click="update()">
          Update “{{ chain.name }}”
        </button></template
      >
      <form v-if="shapers.length && !users" class="row" @submit.prevent="keep">
        <input
          v-model="keeping"
          class="field"
          placeholder="Save steps as…"
          aria-label="Name for these steps"
          maxlength="80"
        /><button class="button" :disabled="!keeping.trim()">Save</button>
      </form>
    </div>
  </div>
</template>

<style scoped>
.way {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  padding-bottom: 6px;
  scrollbar-width: thin;
}
.step {
  flex: 0 0 216px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: 8px;
  padding: 7px 9px;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.step.off {
  opacity: 0.55;
}
.head {
  gap: 0;
}
.tiny {
  background: none;
  border: 0;
  color: var(--soft);
  min-width: 32px;
  min-height: 32px;
  cursor: pointer;
  padding: 0;
}
.tiny:hover:not(:disabled) {
  color: var(--text);
}
.tiny:disabled {
  opacity: 0.3;
}
.tiny[aria-pressed='true'] {
  color: var(--hand);
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
  height: 46px;
}
.one {
  gap: 6px;
  font-size: 14px;
  min-height: 34px;
}
.one select {
  max-width: 124px;
  min-height: 32px;
}
.one .button {
  min-height: 32px;
}
.fit {
  justify-content: center;
}
.under {
  margin-top: 6px;
  flex-wrap: wrap;
}
.under select {
  max-width: 190px;
}
.field {
  min-height: 34px;
  width: 150px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  padding: 0 8px;
}
.told {
  margin: 4px 0;
  font-size: 14px;
  color: var(--bolt);
}
</style>
