<script setup lang="ts">
import { computed } from 'vue'
import type { Gauge } from '../api/client'
import { words } from '../words/en'
import { driftScale } from './axis'

/** A part's window and reading on a scale. */
const props = defineProps<{ gauge: Gauge; against: 'marked' | 'sheet' | 'fitted' }>()

const LEFT = 14
const WIDTH = 426
const scale = computed(() => driftScale(props.gauge, [LEFT, LEFT + WIDTH]))
const x = (value: number) => scale.value.x(value)

const nominal = computed(() => x(props.gauge.nominal.value))
const school = computed(() => ({ low: x(props.gauge.school.low), high: x(props.gauge.school.high) }))
const marked = computed(() => ({ low: x(props.gauge.marked.low), high: x(props.gauge.marked.high) }))
/** Where the school's limit is not the mark's, its edges are drawn and named by themselves. */
const schoolDiffers = computed(() => props.gauge.school.text !== props.gauge.marked.text)
const reading = computed(() => {
  const r = props.gauge.reading
  if (!r) return null
  if (scale.value.beyond) return { at: LEFT + WIDTH, least: 0, most: 0, text: r.shown.text }
  const at = x(r.shown.value)
  return {
    at,
    least: Math.min(x(r.least), at - 1.5),
    most: Math.max(x(r.most), at + 1.5),
    text: r.shown.text,
  }
})
/** The two labels on top must not cover each other. */
const nominalAnchor = computed(() => {
  const r = reading.value
  if (!r || Math.abs(r.at - nominal.value) > 130) return 'middle'
  return r.at > nominal.value ? 'end' : 'start'
})
const readingAnchor = computed(() => {
  const r = reading.value
  if (!r) return 'middle'
  if (scale.value.beyond || r.at > 390) return 'end'
  if (r.at < 50) return 'start'
  if (Math.abs(r.at - nominal.value) > 130) return 'middle'
  return r.at > nominal.value ? 'start' : 'end'
})
const shift = (anchor: string) => (anchor === 'start' ? 5 : anchor === 'end' ? -5 : 0)
const alt = computed(
  () =>
    `${props.gauge.nominal.text}, limits ${props.gauge.school.text}` +
    (props.gauge.reading ? `, reading ${props.gauge.reading.shown.text}` : ''),
)
</script>

<template>
  <svg class="gauge" viewBox="0 0 454 92" role="img" :aria-label="alt">
    <rect :x="marked.low" y="34" :width="marked.high - marked.low" height="22" class="window" />
    <rect
      :x="Math.max(school.low, LEFT)"
      y="38"
      :width="school.high - Math.max(school.low, LEFT)"
      height="14"
      class="inner"
    />
    <path :d="`M${LEFT} 56.500H${LEFT + WIDTH}`" class="scale" />
    <g v-for="tick in scale.ticks" :key="tick.at">
      <path :d="`M${x(tick.at)} 56v${tick.label ? 7 : 4}`" class="scale" />
      <text v-if="tick.label" :x="x(tick.at)" y="76" class="number">{{ tick.label }}</text>
    </g>
    <text :x="LEFT + WIDTH" y="89" class="unit">{{ gauge.unit.name }}</text>
    <path :d="`M${school.low} 33v24M${school.high} 33v24`" class="edge" />
    <template v-if="schoolDiffers">
      <text :x="school.low" y="89" class="percent own">{{ gauge.school.low_text }}</text>
      <text :x="school.high" y="89" class="percent own">{{ gauge.school.high_text }}</text>
    </template>
    <text :x="marked.low" y="89" class="percent">{{ gauge.marked.low_text }}</text>
    <text :x="marked.high" y="89" class="percent">{{ gauge.marked.high_text }}</text>
    <path :d="`M${nominal} 29v31`" class="nominal" />
    <text :x="nominal + shift(nominalAnchor)" y="22" class="label" :class="nominalAnchor">
      {{ words.gauge[against] }} {{ gauge.nominal.number }}
    </text>
    <template v-if="reading">
      <rect
        v-if="!scale.beyond"
        :x="reading.least"
        y="36"
        :width="reading.most - reading.least"
        height="18"
        class="band"
      />
      <path v-if="scale.beyond" :d="`M${reading.at - 2} 45l-11-8v16z`" class="arrow" />
      <path v-else :d="`M${reading.at} 28v32`" class="reading" />
      <text
        :x="Math.min(reading.at + shift(readingAnchor), 450)"
        :y="scale.beyond ? 24 : 22"
        class="label shown"
        :class="readingAnchor"
      >
        {{ reading.text }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.gauge {
  width: 100%;
  max-width: 600px;
  margin: 0 auto;
  height: auto;
  display: block;
}
.window {
  fill: var(--window);
}
.inner {
  fill: var(--window-in);
}
.edge {
  stroke: var(--light);
  stroke-width: 1;
  stroke-dasharray: 3 2;
  opacity: 0.7;
}
.scale {
  stroke: var(--muted);
  fill: none;
}
.number {
  font: 400 12px var(--num);
  fill: var(--muted);
  text-anchor: middle;
}
.unit {
  font: 400 11.5px var(--text);
  fill: var(--muted);
  text-anchor: end;
}
.percent {
  font: 400 11.5px var(--text);
  fill: var(--muted);
  text-anchor: middle;
}
.percent.own {
  fill: var(--light);
  font-weight: 600;
}
.end {
  text-anchor: end;
}
.middle {
  text-anchor: middle;
}
.start {
  text-anchor: start;
}
.nominal {
  stroke: var(--light);
  stroke-width: 2;
}
.label {
  font: 500 12.5px var(--text);
  fill: var(--light);
}
.shown {
  font: 600 13px var(--num);
  fill: var(--numeral);
}
.reading {
  stroke: var(--numeral);
  stroke-width: 3;
}
.band {
  fill: var(--lamp);
  opacity: 0.4;
}
.arrow {
  fill: var(--numeral);
}
</style>
