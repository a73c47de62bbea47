<script setup lang="ts">
import { computed } from 'vue'
import type { PairedLot } from '../api/client'
import { words } from '../words/en'

/** A lot: gain to the right, base volts upwards, paired pieces joined. */
const props = defineProps<{ lot: PairedLot; chosen?: string | null }>()
const W = 560
const H = 330
const x = (at: number) => 44 + at * (W - 64)
const y = (at: number) => H - 34 - at * (H - 54)
const place = computed(() => new Map(props.lot.lot.pieces.map((p) => [p.label, p])))
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
        <g v-for="m in lot.gain_marks" :key="`g${m.text}`">
          <path :d="`M${x(m.at)} ${H - 34}v5`" />
          <text :x="x(m.at)" :y="H - 14" text-anchor="middle">{{ m.text }}</text>
        </g>
        <g v-for="m in lot.volt_marks" :key="`v${m.text}`">
          <path :d="`M44 ${y(m.at)}h-5`" />
          <text x="36" :y="y(m.at) + 4" text-anchor="end">{{ m.text }}</text>
        </g>
      </g>
      <path
        v-for="(l, i) in links"
        :key="i"
        :d="`M${x(l.from.x)} ${y(l.from.y)}L${x(l.to.x)} ${y(l.to.y)}`"
        class="link"
        :class="{ on: l.on }"
      />
      <g v-for="p in lot.lot.pieces" :key="p.label" :class="{ left: lot.paired?.left.includes(p.label) }">
        <title>{{ p.label }}: {{ p.text }}</title>
        <circle :cx="x(p.x)" :cy="y(p.y)" r="11" class="piece" />
        <text :x="x(p.x)" :y="y(p.y) + 4" text-anchor="middle" class="label">{{ p.label }}</text>
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
