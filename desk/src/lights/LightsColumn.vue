<script setup lang="ts">
import { computed, ref } from 'vue'
import { state } from '../live/live'
import { useFrames } from '../live/useFrames'
import Field from '../controls/Field.vue'
import PartControls from '../controls/PartControls.vue'
import PresetList from '../controls/PresetList.vue'
import { useShow } from '../live/show'
import { Block, type Packet } from '../live/wire'
import { lightOf, encode } from './light'

const show = useShow()
const bulbs = ref<HTMLElement[]>([])
const words = ref<HTMLElement[]>([])
const lamps = computed(() => show.document?.lamps ?? [])
const output = computed(() => show.document!.light_output!)
const lights = computed(() => state.value.lights)

function paint(packet: Packet): void {
  const values = packet.blocks.get(Block.lamps) as Float32Array | undefined
  if (!values) return
  lamps.value.forEach((_, i) => {
    const rgb = lightOf(values, i)
    const colour = `rgb(${rgb.map(encode).join()})`
    if (bulbs.value[i]) {
      bulbs.value[i]!.style.background = colour
      bulbs.value[i]!.style.boxShadow = `0 0 ${Math.round(60 * Math.max(...rgb))}px ${colour}`
    }
    if (words.value[i])
      words.value[i]!.textContent = rgb.map((v) => String(Math.round(v * 255)).padStart(3, ' ')).join(' ')
  })
}
useFrames([Block.lamps], { paint })
</script>

<template>
  <div class="top row">
    <h2>Lights</h2>
    <span class="grow" />
    <span class="soft"
      ><span class="num">{{ lights?.sent ?? 0 }}</span> packets sent</span
    >
  </div>
  <div class="body scroll">
    <article v-for="lamp in lamps" :key="lamp.id" class="card lamp" :data-lamp="lamp.id">
      <div class="stage">
        <div ref="bulbs" class="bulb" />
        <span ref="words" class="num soft values" aria-label="Channel values" />
      </div>
      <div class="grow">
        <div class="row">
          <strong>{{ lamp.name }}</strong><span class="soft">{{ show.kindOf(lamp.fixture)?.title }}</span
          ><span class="grow" />
          <Field
            label="Universe"
            :low="1"
            :high="63999"
            :value="lamp.universe ?? 1"
            @change="(text) => show.set(`/lamps/${lamp.id}/universe`, Number(text), 'Universe')"
          />
          <Field
            label="Address"
            :low="1"
            :high="512"
            :value="lamp.address ?? 1"
            @change="(text) => show.set(`/lamps/${lamp.id}/address`, Number(text), 'Address')"
          />
        </div>
        <PartControls :part="lamp.fixture" :path="`/lamps/${lamp.id}/fixture`" :columns="1" />
        <details>
          <summary class="soft">Presets of {{ lamp.name }}</summary>
          <PresetList scope="part" :address="lamp.fixture.id" />
        </details>
      </div>
    </article>
    <p v-if="!lamps.length" class="card soft">Lamps of this show will be listed here.</p>
    <article class="card">
      <div class="row wrap">
        <strong>On the wire</strong>
        <span class="soft">sACN (ANSI E1.31), at most 44 frames a second for each universe</span>
        <span class="grow" />
        <button
          class="button"
          :class="{ on: output.on }"
          @click="show.set('/light_output/on', !output.on, output.on ? 'Stop sending' : 'Send')"
        >
          {{ output.on ? 'Sending' : 'Not sending' }}
        </button>
      </div>
      <div class="row wrap">
        <Field
          label="To"
          wide
          :value="output.host ?? ''"
          @change="(text) => show.set('/light_output/host', text.trim(), 'Light network')"
        />
        <Field
          label="Port"
          :low="1"
          :high="65535"
          :value="output.port ?? 5568"
          @change="(text) => show.set('/light_output/port', Number(text), 'Port')"
        />
        <Field
          label="Priority"
          :low="0"
          :high="200"
          :value="output.priority ?? 100"
          @change="(text) => show.set('/light_output/priority', Number(text), 'Priority')"
        />
      </div>
      <p v-if="lights?.fault" class="bad" role="alert">{{ lights.fault.text }}</p>
      <p v-else class="soft">
        The lamps above show what is sent. The stand-in light node (its address was printed at the start)
        shows what arrives.
      </p>
    </article>
  </div>
</template>

<style scoped>
.top {
  min-height: 34px;
  margin-bottom: 6px;
}
.body {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.body > * {
  flex: none;
}
.lamp {
  display: flex;
  gap: 26px;
  padding: 20px;
}
.stage {
  width: 190px;
  display: grid;
  place-items: center;
  gap: 14px;
  background: var(--ground);
  border-radius: 8px;
  padding: 36px 0 14px;
}
.bulb {
  width: 104px;
  height: 104px;
  border-radius: 50%;
  border: 2px solid var(--edge);
}
.values {
  white-space: pre;
  font-size: 15px;
}
summary {
  min-height: 32px;
  cursor: pointer;
  padding-top: 6px;
}
.wrap {
  flex-wrap: wrap;
  margin-bottom: 8px;
}
p {
  margin: 4px 0 0;
}
.bad {
  color: var(--alarm);
}
</style>
