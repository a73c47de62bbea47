<script setup lang="ts">
import { computed } from 'vue'
import type { Drift } from '../api/client'
import { words } from '../words/en'
import { between } from './axis'

/** How far families drifted: a bar from a tenth to nine tenths of them, the middle one as a line, zero down the page. */
const props = defineProps<{ drift: Drift }>()
const LEFT = 176
const WIDTH = 250
const ROW = 34
const axis = computed(() => between([props.drift.from, props.drift.to], [LEFT, LEFT + WIDTH], 6))
const x = (v: number) => axis.value.at(v)
const rows = computed(() => props.drift.families.map((f, i) => ({ ...f, y: 26 + i * ROW })))
const percent = (v: number) => `${v > 0 ? '+' : v < 0 ? '−' : ''}${Math.abs(Math.round(v * 100))}`
</script>

<template>
  <svg :viewBox="`0 0 500 ${30 + rows.length * ROW}`" role="img" :aria-label="words.job.past.drift">
    <g v-for="t in axis.ticks" :key="t">
      <path :d="`M${x(t)} 16V${26 + rows.length * ROW}`" :class="t === 0 ? 'zero' : 'grid'" />
      <text :x="x(t)" y="11" class="tick">{{ percent(t) }}{{ t === 0 ? ' %' : '' }}</text>
    </g>
    <g v-for="r in rows" :key="r.kind + r.family + r.decade">
      <title>{{ r.text }}</title>
      <text x="0" :y="r.y + 12" class="name">{{ r.family }}</text>
      <text x="0" :y="r.y + 25" class="age">
        {{ r.decade ? `${r.decade}s` : words.job.past.unknownAge }} · {{ r.kind }}
      </text>
      <rect
        :x="x(r.low)"
        :y="r.y + 5"
        :width="Math.max(x(r.high) - x(r.low), 3)"
        height="14"
        rx="3"
        class="bar"
      />
      <path :d="`M${x(r.median)} ${r.y + 2}v20`" class="middle" />
      <text :x="LEFT + WIDTH + 10" :y="r.y + 16" class="count">
        {{ r.out }}/{{ r.count }} {{ words.job.past.out }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 560px;
  display: block;
}
.grid {
  stroke: var(--edge);
}
.zero {
  stroke: var(--edge-strong);
  stroke-width: 2;
}
.bar {
  fill: var(--again);
  opacity: 0.75;
}
.middle {
  stroke: var(--numeral);
  stroke-width: 3;
}
text {
  fill: var(--light);
  font: 500 13px var(--text);
}
.age,
.tick {
  fill: var(--muted);
  font-size: 11px;
}
.tick {
  text-anchor: middle;
  font-family: var(--num);
}
.count {
  font: 500 12px var(--num);
}
</style>
