<script setup lang="ts">
// Each overlay of the show over a test picture: somebody at a table, in front of a wall with a window. It is drawn
// here; a camera's picture may be taken in its place.
import { computed, ref } from 'vue'
import { useShow } from './live/show'

const show = useShow()
const overlays = computed(() =>
  (show.document?.outputs ?? []).filter((output) => output.ground === 'transparent'),
)
const BEHIND = ['test picture', 'white', 'black'] as const
const behind = ref<(typeof BEHIND)[number]>('test picture')
</script>

<template>
  <main>
    <h1>Overlays</h1>
    <p class="soft">
      A browser source of a streaming program takes the address; what is clear there shows the camera. An
      overlay never makes a sound.
    </p>
    <p class="row">
      <button
        v-for="what in BEHIND"
        :key="what"
        class="button"
        :class="{ on: behind === what }"
        @click="behind = what"
      >
        Over {{ what }}
      </button>
    </p>
    <section>
      <figure v-for="output in overlays" :key="output.id">
        <div :class="['under', behind]" :style="{ aspectRatio: `${output.width} / ${output.height}` }">
          <svg
            v-if="behind === 'test picture'"
            viewBox="0 0 160 90"
            preserveAspectRatio="none"
            aria-hidden="true"
          >
            <rect width="160" height="90" fill="#7d6f5c" />
            <rect x="104" y="10" width="40" height="36" fill="#cfe3f2" />
            <path d="M124 10v36M104 28h40" stroke="#5d4a36" stroke-width="1.5" />
            <rect x="12" y="14" width="26" height="20" fill="#a8543e" />
            <circle cx="76" cy="38" r="14" fill="#d9a98a" />
            <path d="M62 36a14 14 0 0 1 28 0q-6-8-14-7-9 0-14 7z" fill="#3b2a22" />
            <path d="M46 90q2-34 30-34t30 34z" fill="#35506b" />
            <rect y="80" width="160" height="10" fill="#4d3a2b" />
          </svg>
          <iframe :src="`/output/${output.address}`" :title="output.name" />
        </div>
        <figcaption>
          <strong>{{ output.name }}</strong> <code>/output/{{ output.address }}</code>
        </figcaption>
      </figure>
      <p v-if="show.document && !overlays.length" class="soft">
        This show has no overlay yet: add one in Send, with a transparent ground.
      </p>
    </section>
  </main>
</template>

<style scoped>
main {
  padding: 16px 24px;
  overflow: auto;
  height: 100%;
}
section {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(420px, 1fr));
  gap: 18px;
}
.row {
  display: flex;
  gap: 8px;
}
figure {
  margin: 0;
}
.under {
  position: relative;
  overflow: hidden;
}
.white {
  background: #fff;
}
.black {
  background: #000;
}
svg,
iframe {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  border: 0;
}
iframe {
  color-scheme: light;
}
</style>
