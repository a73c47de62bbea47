<script setup lang="ts">
import { computed } from 'vue'
import type { Band, Sampled } from '../api/client'
import { words } from '../words/en'

/** Volts in a line, current on a scale of decades, the limit dashed, what is foreseen as a band. */
const props = defineProps<{
  samples: Sampled[]
  /** Earlier runs, drawn faintly behind. */
  earlier?: Sampled[][]
  band?: Band[]
  aim: number
  limit: number
  limitText?: string
  peak: number
  expected: number
  running?: boolean
}>()
const W = 860
const H = 372
const box = { left: 46, right: 52, top: 22, bottom: 26 }
const inner = { width: W - box.left - box.right, height: H - box.top - box.bottom }

const end = computed(() => {
  const last = props.samples.at(-1)?.at_s ?? 0
  const far = Math.max(
    props.band?.at(-1)?.at_s ?? 0,
    ...(props.earlier ?? []).map((e) => e.at(-1)?.at_s ?? 0),
  )
  const wanted = Math.max(last, far, props.running ? Math.max(props.expected * 0.3, last * 1.15) : 0, 300)
  return wanted
})
const step = computed(() => {
  const minutes = end.value / 60
  return [1, 2, 5, 10, 15, 30, 60, 120, 240, 480].find((s) => minutes / s <= 7) ?? 720
})
const top = computed(() => {
  const high = Math.max(props.aim * 1.12, 1)
  const round = [1, 2, 5, 10, 20, 50, 100, 200].find((s) => high / s <= 6) ?? 200
  return { volts: Math.ceil(high / round) * round, step: round }
})
const decades = computed(() => {
  // A decade below the limit, and one more where the readings go there.
  const floor = Math.floor(Math.log10(Math.max(props.limit, 1e-6))) - 1
  const least = Math.min(...fed.value.slice(-200).map((s) => s.amperes))
  const low = least > 0 && least < 10 ** floor ? floor - 1 : floor
  return { low, high: Math.max(Math.ceil(Math.log10(Math.max(props.peak, 1e-6))), low + 2) }
})
const x = (s: number) => box.left + (inner.width * Math.min(Math.max(s, 0), end.value)) / end.value
const y = (v: number) =>
  box.top + inner.height * (1 - Math.min(Math.max(v, 0), top.value.volts) / top.value.volts)
function d(i: number) {
  const { low, high } = decades.value
  const at = Math.log10(Math.max(i, 10 ** low))
  return box.top + inner.height * (1 - Math.min(Math.max((at - low) / (high - low), 0), 1))
}
function line(samples: Sampled[], of: (s: Sampled) => number) {
  return samples.map((s) => `${x(s.at_s).toFixed(1)},${of(s).toFixed(1)}`).join(' ')
}
/** The current only while the supply is on: what flows back when it is emptied says nothing of the leak. */
const fed = computed(() => props.samples.filter((s) => s.ordered != null))
const voltsLine = computed(() => line(props.samples, (s) => y(s.volts)))
const currentLine = computed(() => line(fed.value, (s) => d(s.amperes)))
const bandPath = computed(() => {
  const band = props.band ?? []
  if (band.length < 2) return ''
  const up = band.map((b) => `${x(b.at_s).toFixed(1)},${d(b.most).toFixed(1)}`)
  const back = [...band].reverse().map((b) => `${x(b.at_s).toFixed(1)},${d(b.least).toFixed(1)}`)
  return `M${up.join('L')}L${back.join('L')}Z`
})
const nowX = computed(() => x(props.samples.at(-1)?.at_s ?? 0))
const times = computed(() =>
  Array.from({ length: Math.floor(end.value / 60 / step.value) + 1 }, (_, n) => n * step.value).filter(
    (t) => t * 60 < end.value * 0.95,
  ),
)
const rails = computed(() =>
  Array.from({ length: Math.floor(top.value.volts / top.value.step) + 1 }, (_, n) => n * top.value.step),
)
const lamps = computed(() =>
  Array.from({ length: decades.value.high - decades.value.low + 1 }, (_, n) => decades.value.low + n),
)
function milli(exponent: number) {
  return String(Number((10 ** (exponent + 3)).toPrecision(1)))
}
</script>

<template>
  <svg class="chart" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="words.reform.chart">
    <path v-for="v in rails" :key="v" class="grid" :d="`M${box.left} ${y(v)}H${W - box.right}`" />
    <text v-for="v in rails" :key="`v${v}`" :x="box.left - 8" :y="y(v) + 4" text-anchor="end">{{ v }}</text>
    <text v-for="e in lamps" :key="`i${e}`" class="amber" :x="W - box.right + 8" :y="d(10 ** e) + 4">
      {{ milli(e) }}
    </text>
    <text v-for="t in times" :key="`t${t}`" :x="x(t * 60)" :y="H - 7" text-anchor="middle">{{ t }}</text>
    <text :x="box.left - 8" y="12" text-anchor="end">V</text>
    <text class="amber" :x="W - box.right + 8" y="12">mA</text>
    <text :x="W - box.right + 8" :y="H - 7">{{ words.reform.minutes }}</text>
    <template v-for="(e, n) in earlier ?? []" :key="n">
      <polyline class="volts old" :points="line(e, (s) => y(s.volts))" />
      <polyline
        class="current old"
        :points="
          line(
            e.filter((s) => s.ordered != null),
            (s) => d(s.amperes),
          )
        "
      />
    </template>
    <path v-if="bandPath" class="band" :d="bandPath" />
    <path class="limit" :d="`M${box.left} ${d(limit)}H${W - box.right}`" />
    <text v-if="limitText" class="good" :x="W - box.right - 6" :y="d(limit) - 6" text-anchor="end">
      {{ words.reform.goodBelow }} {{ limitText }}
    </text>
    <polyline class="volts" :points="voltsLine" />
    <polyline class="current" :points="currentLine" />
    <template v-if="running && samples.length">
      <path class="now" :d="`M${nowX} ${box.top}V${H - box.bottom}`" />
      <text class="amber" :x="nowX + 6" :y="box.top + 12">{{ words.reform.now }}</text>
    </template>
  </svg>
</template>

<style scoped>
.chart {
  width: 100%;
  height: 100%;
  min-height: 200px;
  display: block;
}
.grid {
  stroke: var(--edge);
}
text {
  fill: var(--muted);
  font: 400 13px var(--num);
}
.amber {
  fill: var(--numeral);
}
.good {
  fill: var(--keep);
  font-family: var(--text);
}
polyline {
  fill: none;
  stroke-width: 2.6;
  stroke-linejoin: round;
}
.volts {
  stroke: var(--light);
}
.current {
  stroke: var(--numeral);
}
.old {
  opacity: 0.32;
  stroke-width: 1.6;
}
.limit {
  stroke: var(--keep);
  stroke-dasharray: 7 5;
}
.band {
  fill: var(--numeral);
  stroke: var(--numeral);
  stroke-width: 3;
  opacity: 0.3;
}
.now {
  stroke: var(--numeral);
  stroke-dasharray: 3 4;
}
</style>
