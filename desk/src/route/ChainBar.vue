<script setup lang="ts">
// Steps that were saved: taken, kept under a name, and brought up to date for every route that uses them.
import { computed, ref } from 'vue'
import { api, type Route } from '../api/api'
import ActMenu from '../controls/ActMenu.vue'
import { useShow } from '../live/show'

const props = defineProps<{ route: Route }>()
const show = useShow()
const shapers = computed(() => props.route.shapers ?? [])
const chains = computed(() => show.document?.chains ?? [])
const chain = computed(() => chains.value.find((chain) => chain.id === props.route.chain))
const changed = computed(
  () => chain.value !== undefined && JSON.stringify(chain.value.shapers) !== JSON.stringify(shapers.value),
)
const options = computed(() => chains.value.map((chain) => ({ value: chain.id, label: chain.name })))
const name = ref('')
const users = ref<string[] | null>(null)

async function keep(): Promise<void> {
  try {
    await api.keepChain(props.route.id, name.value.trim())
    name.value = ''
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
const take = (id: string): void => {
  api.takeChain(id, props.route.id).catch(show.complain)
}
</script>

<template>
  <ActMenu v-if="chains.length" title="Take saved steps…" :options="options" @choose="take" />
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
    ><span class="soft">from “{{ chain.name }}”{{ changed ? ', changed' : '' }}</span
    ><button v-if="changed" class="button" @click="update()">Update “{{ chain.name }}”</button></template
  >
  <form v-if="shapers.length && !users" class="row" @submit.prevent="keep">
    <input
      v-model="name"
      class="field"
      placeholder="Save steps as…"
      aria-label="Name for these steps"
      maxlength="80"
    /><button class="button" :disabled="!name.trim()">Save</button>
  </form>
</template>

<style scoped>
.field {
  min-height: 34px;
  width: 150px;
  background: var(--ground);
  border: 1px solid var(--edge);
  border-radius: 6px;
  padding: 0 8px;
}
</style>
