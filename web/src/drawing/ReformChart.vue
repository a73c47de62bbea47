<script setup lang="ts">
import { computed } from 'vue'
import type { Band, Sampled } from '../api/client'
import { words } from '../words/en'
import { between, decades, timeAxis } from './axis'

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

const end = computed(() => {
  const last = props.samples.at(-1)?.at_s ?? 0
  const far = Math.max(
    props.band?.at(-1)?.at_s ?? 0,
    ...(props.earlier ?? []).map((e) => e.at(-1)?.at_s ?? 0),
  )
  const wanted = Math.max(last, far, props.running ? Math.max(props.expected * 0.3, last * 1.15) : 0, 300)
  return wanted
})
const floor = H - box.bottom
const time = computed(() => timeAxis(end.value, [box.left, W - box.right]))
const rails = computed(() => between([0, Math.max(props.aim * 1.12, 1)], [floor, box.top], 6))
const currents = computed(() => {
  // A decade below the limit, and one more where the readings go there.
  const below = Math.floor(Math.log10(Math.max(props.limit, 1e-6))) - 1
  const least = Math.min(...fed.value.slice(-200).map((s) => s.amperes))
  const low = least > 0 && least < 10 ** below ? below - 1 : below
  const high = Math.max(Math.ceil(Math.log10(Math.max(props.peak, 1e-6))), low + 2)
  return decades(low, high, [floor, box.top])
})
const x = (s: number) => time.value.at(s)
const y = (v: number) => rails.value.at(v)
const d = (i: number) => currents.value.at(i)
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
function milli(amperes: number) {
  return String(Number((amperes * 1000).toPrecision(1)))
}
</script>

<template>
  <svg class="chart" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="words.reform.chart">
    <path v-for="v in rails.ticks" :key="v" class="grid" :d="`M${box.left} ${y(v)}H${W - box.right}`" />
    <text v-for="v in rails.ticks" :key="`v${v}`" :x="box.left - 8" :y="y(v) + 4" text-anchor="end">
      {{ v }}
    </text>
    <text v-for="e in currents.marks" :key="`i${e}`" class="amber" :x="W - box.right + 8" :y="d(e) + 4">
      {{ milli(e) }}
    </text>
    <text v-for="t in time.minutes" :key="`t${t}`" :x="x(t * 60)" :y="H - 7" text-anchor="middle">
      {{ t }}
    </text>
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
