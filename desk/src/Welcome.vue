<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, type ShowSummary } from './api/api'
import { useShow } from './live/show'

defineProps<{ closable: boolean }>()
const emit = defineEmits<{ close: [] }>()
const show = useShow()
const shows = ref<ShowSummary[]>([])
const name = ref('')
onMounted(async () => {
  try {
    shows.value = await api.shows()
  } catch (error) {
    show.complain(error)
  }
})
async function make(): Promise<void> {
  try {
    await api.createShow(name.value.trim())
    emit('close')
  } catch (error) {
    show.complain(error)
  }
}
async function open(id: number): Promise<void> {
  try {
    await api.openShow(id)
    emit('close')
  } catch (error) {
    show.complain(error)
  }
}
</script>

<template>
  <main class="welcome">
    <div class="card">
      <h2>Shows</h2>
      <p v-if="!shows.length" class="soft">
        Your shows will be listed here. Name the first one; it starts with three bands, a ring of light, one
        lamp, and the house band playing.
      </p>
      <button
        v-for="saved in shows"
        :key="saved.id"
        class="button wide"
        :class="{ on: saved.id === show.id }"
        @click="open(saved.id)"
      >
        <span class="grow">{{ saved.name }}</span><span class="soft num">{{
          new Date(saved.updated_at).toLocaleString()
        }}</span>
      </button>
      <form class="row" @submit.prevent="make">
        <input
          v-model="name"
          class="field grow"
          placeholder="Name of a new show"
          maxlength="80"
          aria-label="Name of a new show"
        />
        <button class="button" :disabled="!name.trim()">Make it</button>
        <button v-if="closable" type="button" class="button plain" @click="emit('close')">Back</button>
      </form>
    </div>
  </main>
</template>

<style scoped>
.welcome {
  display: grid;
  place-items: center;
}
.card {
  width: 560px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 22px;
}
.wide {
  text-align: left;
}
p {
  margin: 0;
}
.field {
  min-height: 36px;
  padding: 0 10px;
  background: var(--ground);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
}
</style>
