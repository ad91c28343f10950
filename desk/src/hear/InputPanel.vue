<script setup lang="ts">
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import { computed, onMounted, watch } from 'vue'
import { api } from '../shared/api'
import { state } from '../shared/live'
import ParameterControl from '../shared/ParameterControl.vue'
import { useShow } from '../shared/show'
import Place from './Place.vue'
import { devices, listDevices, microphone, startMicrophone, stopMicrophone } from './microphone'

const show = useShow()
const USES = [{ label: 'Track', value: 'track' }, { label: 'Live', value: 'live' }, { label: 'House band', value: 'house' }]
const input = computed(() => show.document!.input)
const track = computed(() => input.value.track!)
const place = computed(() => state.value.input)

onMounted(() => void listDevices())
watch(() => input.value.use, (use, before) => { if (before === 'live' && use !== 'live') stopMicrophone() })

const SAYS: Record<string, string> = {
  off: 'Nothing is sent yet.', asking: 'The browser asks whether it may listen…', sending: 'Sending to the engine.',
  refused: 'The browser refused the microphone. Allow it in the address bar, then start again. Everything else goes on.',
  missing: 'No such device was found. Plug one in, or choose another. Everything else goes on.',
  taken: 'Another desk sends live sound now.', lost: 'The device is gone. Plug it in and start again.',
}
const house = computed(() => show.kind('house-band-settings')?.parameters ?? [])
</script>

<template>
  <div class="card">
    <SelectButton :model-value="input.use" :options="USES" option-label="label" option-value="value" :allow-empty="false" aria-label="Input" @update:model-value="(use) => show.set('/input/use', use, 'Input')" />
    <template v-if="input.use === 'track'">
      <Select :model-value="track.track" :options="show.tracks" option-label="title" option-value="id" placeholder="Choose a track" aria-label="Track" class="fill" @update:model-value="(id) => show.set('/input/track/track', id, 'Track')" />
      <div class="row">
        <button class="button" @click="show.set('/input/track/playing', !track.playing, track.playing ? 'Pause' : 'Play')"><i class="pi" :class="track.playing ? 'pi-pause' : 'pi-play'" />{{ track.playing ? 'Pause' : 'Play' }}</button>
        <Place v-if="place?.length_s" :position="place.position_s ?? 0" :length="place.length_s" @seek="(to) => api.seek(to).catch(show.complain)" />
      </div>
      <p v-if="place?.trouble" class="bad" role="alert">{{ place.trouble }}</p>
    </template>
    <template v-else-if="input.use === 'live'">
      <Select :model-value="input.live?.device" :options="[{ id: '', label: 'Default device' }, ...devices.filter((d) => d.id && d.id !== 'default')]" option-label="label" option-value="id" aria-label="Device" class="fill" @update:model-value="(id) => show.set('/input/live/device', id, 'Device')" />
      <button v-if="microphone !== 'sending'" class="button" @click="startMicrophone(input.live?.device ?? '')"><i class="pi pi-microphone" />Start listening</button>
      <button v-else class="button on" @click="stopMicrophone()"><i class="pi pi-microphone" />Stop listening</button>
      <p :class="microphone === 'sending' || microphone === 'off' || microphone === 'asking' ? 'soft' : 'bad'" role="status" data-testid="microphone">{{ SAYS[microphone] }}<template v-if="place?.dropped"> {{ place.dropped }} samples came too fast and were dropped.</template></p>
    </template>
    <template v-else>
      <ParameterControl v-for="parameter in house" :key="parameter.name" :parameter="parameter" :value="(input.house as unknown as Record<string, number>)[parameter.name]!" @change="(value, gesture) => show.set(`/input/house/${parameter.name}`, value, `House band ${parameter.title.toLowerCase()}`, gesture)" />
      <p v-if="place?.creep_db" class="soft">The level has crept by <span class="num">{{ place.creep_db.toFixed(1) }}</span> dB.</p>
    </template>
  </div>
</template>

<style scoped>
.card { display: flex; flex-direction: column; gap: 8px }
.fill { width: 100% }
p { margin: 0; font-size: 14px } .bad { color: var(--alarm) }
:deep(.p-togglebutton) { min-height: 34px; padding: 2px 4px; flex: 1 } :deep(.p-selectbutton) { width: 100%; display: flex }
</style>
