<script setup lang="ts">
import { computed } from 'vue'
import type { RectifierAnswer } from '../api/client'
import { words } from '../words/en'

/** One line period of a supply: the rail above, the charging pulses below. */
const props = defineProps<{ wave: RectifierAnswer['waveform'] }>()
const WIDTH = 600
const RAIL = { top: 14, height: 110 }
const PULSE = { top: 150, height: 90 }

function path(values: number[], from: number, to: number, at: { top: number; height: number }) {
  const step = WIDTH / Math.max(values.length - 1, 1)
  const y = (v: number) => at.top + at.height * (1 - (v - from) / (to - from || 1))
  return values.map((v, i) => `${i ? 'L' : 'M'}${(i * step).toFixed(1)} ${y(v).toFixed(1)}`).join('')
}
const rail = computed(() => {
  const [low, high] = [Math.min(...props.wave.volts), Math.max(...props.wave.volts)]
  const room = (high - low || 1) * 0.15
  return path(props.wave.volts, low - room, high + room, RAIL)
})
const pulses = computed(() => path(props.wave.current, 0, Math.max(...props.wave.current) * 1.05, PULSE))
</script>

<template>
  <svg
    class="wave"
    :viewBox="`0 0 ${WIDTH} 250`"
    role="img"
    :aria-label="`${words.supply.rail}, ${words.supply.current}`"
  >
    <path :d="`M0 ${PULSE.top + PULSE.height}H${WIDTH}`" class="axis" />
    <path
      :d="`${pulses}L${WIDTH} ${PULSE.top + PULSE.height}L0 ${PULSE.top + PULSE.height}Z`"
      class="pulse"
    />
    <path :d="rail" class="rail" />
    <text x="6" y="14">{{ words.supply.rail }}</text>
    <text x="6" :y="PULSE.top + 4">{{ words.supply.current }}</text>
  </svg>
</template>

<style scoped>
.wave {
  width: 100%;
  max-width: 760px;
  background: var(--well);
  border: 1px solid var(--edge);
  border-radius: 9px;
  margin-top: 12px;
}
.rail {
  fill: none;
  stroke: var(--numeral);
  stroke-width: 2.2;
}
.pulse {
  fill: var(--again-low);
  stroke: var(--again);
  stroke-width: 1.4;
}
.axis {
  stroke: var(--edge-strong);
}
text {
  fill: var(--muted);
  font: 400 12px var(--text);
}
</style>
