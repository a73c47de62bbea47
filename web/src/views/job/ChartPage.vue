<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { PinOnBoard } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import SocketDrawing from '../../drawing/SocketDrawing.vue'
import { words } from '../../words/en'
import UndoLast from '../bench/UndoLast.vue'
import { useBench } from '../bench/useBench'
import ChartForms from './ChartForms.vue'
import ChartTable from './ChartTable.vue'
import { useChart } from './useChart'

/** The voltage chart: pin by pin with the numeric pad, each reading held against its sheet. */
const w = words.job.chart
const chart = useChart()
const bench = useBench()
const cautions = computed(() => bench.cautionsAt('voltages').map((c) => c.text))
const { data, problem, point, selected, drawings, hangs } = chart
const table = ref<InstanceType<typeof ChartTable>>()

watch(
  () => data.value?.points,
  (points) => {
    if (points && !points.some((p) => p.id === selected.value)) selected.value = points[0]?.id ?? null
  },
)
const drawn = computed(() => drawings(point.value?.valve.toUpperCase() ?? null))
const valve = computed(() => drawn.value?.valve ?? null)
const base = computed(() => drawn.value?.base ?? null)
/** What hangs at each pin of it. */
const parts = computed(() => {
  const at = point.value?.at
  const all: Record<number, PinOnBoard['parts']> = {}
  for (const p of data.value?.points ?? []) if (p.at === at && p.pin) all[p.pin] = hangs.value.get(p.id) ?? []
  return all
})
/** What was read at each pin of the valve in hand. */
const volts = computed(() => {
  const at = point.value?.at
  const all: Record<number, string> = {}
  for (const p of data.value?.points ?? [])
    if (p.at === at && p.pin) all[p.pin] = (data.value?.after ? p.after : p.before)?.volts.text ?? ''
  return all
})
function pick(pin: number) {
  const p = data.value?.points.find((x) => x.at === point.value?.at && x.pin === pin)
  if (!p) return
  selected.value = p.id
  void nextTick(() => table.value?.focus())
}
defineExpose({ begin: (digit: string) => table.value?.begin(digit) === true })
const disagree = computed(() => data.value?.pairs.filter((p) => !p.agree) ?? [])
const name = (run: string) => data.value?.runs.find((r) => r.id === run)?.name ?? ''
</script>

<template>
  <p v-if="problem && !data" class="desk problem" role="alert">
    {{ problem.detail }} <button class="link" @click="chart.fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <section class="desk">
      <CautionList :cautions="cautions" />
      <UndoLast :part="null" />
      <p v-if="!data.points.length" class="loading">{{ w.none }}</p>
      <template v-else>
        <p v-if="!data.runs.length" class="watch">{{ w.noRun }}</p>
        <ChartTable ref="table" :chart="chart" />
        <ul v-if="disagree.length" class="pairs">
          <li v-for="p in disagree" :key="p.run + p.a" class="replace">
            {{ p.a }} – {{ p.b }} ({{ name(p.run) }}): {{ p.text }}
          </li>
        </ul>
      </template>
    </section>
    <section class="desk">
      <template v-if="base && point">
        <SocketDrawing
          :base="base"
          :valve="valve"
          :selected="point.pin ?? null"
          :volts="volts"
          :parts="parts"
          :label="`${point.at}: ${valve?.type}, ${w.below}`"
          @pick="pick"
        />
        <p class="note">
          <b>{{ point.at }}</b> · {{ valve?.what }} · {{ w.below
          }}<template v-if="valve?.cap"> · {{ w.cap }}: {{ valve.cap }}</template>
          <span v-if="valve?.sure === 'doubtful'" class="watch"> · {{ w.doubtful }}</span>
        </p>
      </template>
      <ChartForms :chart="chart" />
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 17fr) minmax(0, 10fr);
}
.pairs {
  margin-top: var(--s10);
}
.pairs li {
  padding: var(--s4) 0;
}
</style>
