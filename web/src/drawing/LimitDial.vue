<script setup lang="ts">
import { computed } from 'vue'
import type { Dial } from '../api/client'
import { words } from '../words/en'
import VerdictMark from './VerdictMark.vue'
import { dialScale } from './axis'

/** One quantity against its limit: a small arc with a needle. */
const props = defineProps<{ dial: Dial }>()

const R = 52
const CX = 70
const CY = 66
/** A point of the arc, from its left end (0) to its right end (1). */
function point(at: number, r: number) {
  const angle = Math.PI * (1 - at)
  return { x: CX + r * Math.cos(angle), y: CY - r * Math.sin(angle) }
}
function arc(from: number, to: number, r: number): string {
  const a = point(from, r)
  const b = point(to, r)
  return `M${a.x} ${a.y}A${r} ${r} 0 0 1 ${b.x} ${b.y}`
}
const scale = computed(() => dialScale(props.dial))
const at = (m: { value: { value: number } }) => scale.value(m.value.value)
const passes = computed(() => arc(props.dial.low ? at(props.dial.low) : 0, at(props.dial.high), R))
const needle = computed(() => (props.dial.value ? point(scale.value(props.dial.value.value), R - 4) : null))
const marks = computed(() =>
  [props.dial.low, props.dial.high]
    .filter((m) => m != null)
    .map((m) => ({ from: point(at(m), R - 8), to: point(at(m), R + 8), m })),
)
const others = computed(() =>
  props.dial.others
    .filter((o) => at(o) < 1 && Math.abs(at(o) - at(props.dial.high)) > 0.01)
    .map((o) => ({ from: point(at(o), R - 6), to: point(at(o), R + 6), o })),
)
const tone = computed(() =>
  props.dial.verdict == null ? 'open' : props.dial.verdict === 'measure again' ? 'again' : props.dial.verdict,
)
const alt = computed(
  () =>
    `${props.dial.called}: ${props.dial.value?.text ?? words.judge.notRead}, ` +
    `${words.judge.limit} ${props.dial.low ? `${props.dial.low.value.text} to ` : ''}${props.dial.high.value.text}`,
)
</script>

<template>
  <figure :class="tone" :title="dial.source">
    <svg viewBox="0 0 140 84" role="img" :aria-label="alt">
      <path :d="arc(0, 1, R)" class="all" />
      <path :d="passes" class="passes" />
      <g v-for="o in others" :key="o.o.name">
        <path :d="`M${o.from.x} ${o.from.y}L${o.to.x} ${o.to.y}`" class="other">
          <title>{{ o.o.name }} {{ o.o.value.text }}</title>
        </path>
      </g>
      <path
        v-for="m in marks"
        :key="m.m.value.value"
        :d="`M${m.from.x} ${m.from.y}L${m.to.x} ${m.to.y}`"
        class="limit"
      />
      <path v-if="needle" :d="`M${CX} ${CY}L${needle.x} ${needle.y}`" class="needle" />
      <circle :cx="CX" :cy="CY" r="4" class="hub" />
      <text :x="CX" y="82" class="limits">
        {{ words.judge.limit }}
        <template v-if="dial.low">{{ dial.low.value.number }} …</template>
        {{ dial.high.value.text }}
      </text>
    </svg>
    <figcaption>
      <b class="num">{{ dial.value?.text ?? '–' }}</b>
      <span>
        <VerdictMark v-if="dial.verdict" :verdict="dial.verdict" :size="13" />
        {{ dial.called }}<template v-if="dial.value == null">, {{ words.judge.notRead }}</template>
      </span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  text-align: center;
  min-width: 0;
}
figure > svg {
  width: 100%;
  display: block;
}
.all {
  fill: none;
  stroke: var(--edge-strong);
  stroke-width: 10;
}
.passes {
  fill: none;
  stroke: var(--window-in);
  stroke-width: 10;
}
.limit {
  stroke: var(--light);
  stroke-width: 2;
}
.other {
  stroke: var(--muted);
  stroke-width: 1.5;
  stroke-dasharray: 2 2;
}
.needle {
  stroke: var(--numeral);
  stroke-width: 3;
  stroke-linecap: round;
}
.hub {
  fill: var(--light);
}
.limits {
  font: 400 10.5px var(--text);
  fill: var(--muted);
  text-anchor: middle;
}
figcaption b {
  display: block;
  font-size: 19px;
  font-weight: 600;
  line-height: 1.15;
  color: var(--numeral);
}
figcaption span {
  font-size: 12.5px;
  color: var(--muted);
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
.open figcaption b {
  color: var(--muted);
}
.keep figcaption svg {
  color: var(--keep);
}
.watch figcaption svg {
  color: var(--watch);
}
.replace figcaption svg {
  color: var(--replace);
}
.again figcaption svg {
  color: var(--again);
}
</style>
