<script setup lang="ts">
import { computed } from 'vue'
import type { PairedLot } from '../api/client'
import { words } from '../words/en'
import { around } from './axis'

/** A lot: gain to the right, base volts upwards, paired pieces joined. */
const props = defineProps<{ lot: PairedLot; chosen?: string | null }>()
const W = 560
const H = 330
const pieces = computed(() => props.lot.lot.pieces)
const gains = computed(() =>
  around(
    pieces.value.map((p) => p.gain),
    2,
    [44, W - 20],
    (gain) => gain.toFixed(gain < 10 ? 1 : 0),
  ),
)
const volts = computed(() =>
  around(
    pieces.value.map((p) => p.base_volts),
    0.004,
    [H - 34, 20],
    (v) => (v * 1000).toFixed(0),
  ),
)
const x = (p: { gain: number }) => gains.value.at(p.gain)
const y = (p: { base_volts: number }) => volts.value.at(p.base_volts)
const place = computed(() => new Map(pieces.value.map((p) => [p.label, p])))
const links = computed(() => {
  const paired = props.lot.paired
  if (!paired) return []
  const pairs = paired.pairs.map((p) => [p.a, p.b])
  const quads = paired.quads.flatMap((q) =>
    q.members.map((m, i) => [m, q.members[(i + 1) % q.members.length] ?? m]),
  )
  return [...pairs, ...quads].flatMap(([a, b]) => {
    const from = place.value.get(a ?? '')
    const to = place.value.get(b ?? '')
    return from && to
      ? [{ from, to, on: props.chosen != null && (a === props.chosen || b === props.chosen) }]
      : []
  })
})
</script>

<template>
  <figure class="chart">
    <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="words.transistor.pairs.chart">
      <g class="axes">
        <path :d="`M44 20V${H - 34}H${W - 20}`" />
        <template v-if="pieces.length">
          <g v-for="m in gains.ticks" :key="`g${m.label}`">
            <path :d="`M${gains.at(m.at)} ${H - 34}v5`" />
            <text :x="gains.at(m.at)" :y="H - 14" text-anchor="middle">{{ m.label }}</text>
          </g>
          <g v-for="m in volts.ticks" :key="`v${m.label}`">
            <path :d="`M44 ${volts.at(m.at)}h-5`" />
            <text x="36" :y="volts.at(m.at) + 4" text-anchor="end">{{ m.label }}</text>
          </g>
        </template>
      </g>
      <path
        v-for="(l, i) in links"
        :key="i"
        :d="`M${x(l.from)} ${y(l.from)}L${x(l.to)} ${y(l.to)}`"
        class="link"
        :class="{ on: l.on }"
      />
      <g v-for="p in pieces" :key="p.label" :class="{ left: lot.paired?.left.includes(p.label) }">
        <title>{{ p.label }}: {{ p.text }}</title>
        <circle :cx="x(p)" :cy="y(p)" r="11" class="piece" />
        <text :x="x(p)" :y="y(p) + 4" text-anchor="middle" class="label">{{ p.label }}</text>
      </g>
    </svg>
    <figcaption class="note">{{ words.transistor.pairs.chart }}</figcaption>
  </figure>
</template>

<style scoped>
.chart {
  margin: 0;
}
svg {
  width: 100%;
  max-height: 34vh;
  display: block;
}
.axes path {
  fill: none;
  stroke: var(--edge-strong);
}
.axes text {
  fill: var(--muted);
  font: 500 11.5px var(--num);
}
.link {
  stroke: var(--keep);
  stroke-width: 3;
  opacity: 0.8;
}
.link.on {
  stroke: var(--lamp);
  stroke-width: 5;
  opacity: 1;
}
.piece {
  fill: var(--paper);
  stroke: var(--wood-edge);
}
.label {
  fill: var(--ink);
  font: 650 10.5px var(--num);
}
.left .piece {
  stroke: var(--watch);
  stroke-width: 2.5;
  stroke-dasharray: 4 3;
}
</style>
