<script setup lang="ts">
import { computed } from 'vue'
import type { Gauge, Reading } from '../api/client'

/**
 * The readings one after the other on the gauge's scale, with the school's window behind them: a
 * part that creeps back after the iron is seen. Drawn from two readings on.
 */
const props = defineProps<{ readings: Reading[]; gauge: Gauge; quantity?: Reading['quantity'] }>()

const W = 440
const H = 74
const shown = computed(() =>
  props.readings
    .filter((r) => !r.before_fitting && !r.voided && r.measured && r.quantity === props.quantity)
    .slice(-12),
)
const span = computed(() => {
  const values = shown.value.map((r) => r.measured?.value ?? 0)
  const low = Math.min(props.gauge.school.low, ...values)
  const high = Math.max(props.gauge.school.high, ...values)
  return { low, high }
})
const y = (ohm: number) => H - 8 - ((ohm - span.value.low) / (span.value.high - span.value.low)) * (H - 16)
const points = computed(() =>
  shown.value.map((r, i) => ({
    x: 30 + (i * (W - 60)) / Math.max(shown.value.length - 1, 1),
    y: y(r.measured?.value ?? 0),
    hot: r.hot,
    circuit: r.state === 'in circuit',
    text: r.measured?.text ?? '',
  })),
)
</script>

<template>
  <svg
    v-if="shown.length > 1"
    class="trace"
    :viewBox="`0 0 ${W} ${H}`"
    role="img"
    :aria-label="`readings in order: ${points.map((p) => p.text).join(', ')}`"
  >
    <rect
      x="0"
      :y="y(gauge.school.high)"
      :width="W"
      :height="y(gauge.school.low) - y(gauge.school.high)"
      class="window"
    />
    <path :d="`M0 ${y(gauge.nominal.value)}H${W}`" class="nominal" />
    <polyline :points="points.map((p) => `${p.x},${p.y}`).join(' ')" class="line" />
    <circle
      v-for="(p, i) in points"
      :key="i"
      :cx="p.x"
      :cy="p.y"
      r="4.500"
      :class="{ hot: p.hot, circuit: p.circuit }"
    />
  </svg>
</template>

<style scoped>
.trace {
  width: 100%;
  height: auto;
  display: block;
  margin-top: 12px;
}
.window {
  fill: var(--window);
  opacity: 0.7;
}
.nominal {
  stroke: var(--light);
  stroke-dasharray: 4 4;
  opacity: 0.7;
}
.line {
  fill: none;
  stroke: var(--numeral);
  stroke-width: 2;
}
circle {
  fill: var(--numeral);
  stroke: var(--numeral);
  stroke-width: 2;
}
circle.hot {
  fill: var(--replace);
}
circle.circuit {
  fill: var(--baize);
}
</style>
