<script setup lang="ts">
// How loud the input is, its peak held, and what was wrong with its samples.
import { ref } from 'vue'
import { useFrames } from '../live/useFrames'
import { Block, Status, type Packet } from '../live/wire'
import { write } from '../live/write'

const FLOOR_DB = -60
const HOLD_MS = 1500
const meter = ref<HTMLElement>()
const hold = ref<HTMLElement>()
const level = ref<HTMLElement>()
const clipped = ref(0)
const repaired = ref(0)
let held = FLOOR_DB
let heldAt = 0
const share = (db: number): number => Math.min(1, Math.max(0, 1 - db / FLOOR_DB))

function paint(packet: Packet): void {
  const status = packet.blocks.get(Block.status)
  if (!status || !meter.value) return
  const peak = status[Status.peak]!
  const rms = status[Status.rms]!
  const now = performance.now()
  if (peak > held || now - heldAt > HOLD_MS) {
    held = peak
    heldAt = now
  }
  meter.value.style.transform = `scaleX(${share(rms)})`
  hold.value!.style.left = `${share(held) * 100}%`
  write(level.value, rms < -90 ? '–∞' : rms.toFixed(1))
  clipped.value = status[Status.clips]!
  repaired.value = status[Status.repaired]!
}
useFrames([Block.status], { paint })
</script>

<template>
  <div
    v-tooltip.bottom="'RMS level of the input, its peak held'"
    class="level"
    role="meter"
    aria-label="Input level"
  >
    <div class="groove">
      <div ref="meter" class="fill" />
      <div ref="hold" class="hold" />
    </div>
  </div>
  <span class="num db"><span ref="level" data-testid="level">–∞</span> <span class="soft">dB</span></span>
  <span
    v-if="clipped"
    v-tooltip.bottom="'Blocks in which the input clipped. Lower the gain.'"
    class="num clip"
    >clip {{ clipped }}</span
  >
  <span
    v-if="repaired"
    v-tooltip.bottom="'Damaged samples that were repaired: the device or its driver sends them.'"
    class="num clip"
    >repaired {{ repaired }}</span
  >
</template>

<style scoped>
.clip {
  color: var(--alarm);
}
.level {
  width: 92px;
}
.groove {
  position: relative;
  height: 12px;
  border-radius: 3px;
  background: var(--raised);
  overflow: hidden;
}
.fill {
  position: absolute;
  inset: 0;
  transform-origin: left;
  background: linear-gradient(90deg, var(--moss) 70%, var(--bolt) 88%, var(--alarm));
  transform: scaleX(0);
}
.hold {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--text);
}
.db {
  width: 68px;
  text-align: right;
}
</style>
