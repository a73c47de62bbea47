<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import ReformChart from '../../drawing/ReformChart.vue'
import TouchSign from '../../drawing/TouchSign.vue'
import CautionList from '../../components/CautionList.vue'
import { clockOf, soon } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import MeterEntry from './MeterEntry.vue'
import NoteSheet from './NoteSheet.vue'
import StartSheet from './StartSheet.vue'
import type { Run } from '../../api/client'
import type { Reform } from './useReform'

const props = defineProps<{ reform: Reform; run: Run }>()
const bench = useBench()
const run = computed(() => props.run)
const entry = useTemplateRef('entry')
const sheet = ref<'start' | 'note' | null>(null)
const simulated = computed(() => run.value.way === 'simulated bench')
const phase = computed(() => run.value.phase)
const SPEEDS = [1, 10, 60, 300, 600]
const taken = ref(false)

/** The first time the server asks for a name: then the cautions are read. */
async function on() {
  if (await props.reform.start(null)) return
  if (props.reform.problem.value?.field === 'name') sheet.value = 'start'
}
async function take() {
  taken.value = await props.reform.takeLeakage()
}
function toPart() {
  void bench.refresh()
  bench.go({ ticket: run.value.ticket_id, part: run.value.part.split(' ')[0] ?? null, step: 'measure' })
}
/** What the keys do here; says whether one did something. */
function key(pressed: string): boolean {
  if (sheet.value) return false
  const r = props.reform
  const at = phase.value
  const k = pressed.toLowerCase()
  if (k === 's' && at === 'feeding') void r.command('stop')
  else if (k === 'h' && at === 'feeding') void r.command(run.value.held ? 'resume' : 'hold')
  else if (k === 'n') sheet.value = 'note'
  else if (k === 'enter' && at === 'ready' && run.value.touch.safe) void on()
  else if (k === 'enter' && !simulated.value && at !== 'over') entry.value?.focus()
  else return false
  return true
}
defineExpose({ key })
const elsewhere = computed(() => {
  const p = props.reform.problem.value
  return p && !['volts', 'current', 'name', 'text'].includes(p.field ?? '') ? p.detail : null
})
const latest = computed(() => run.value.said.slice(0, 30))
</script>

<template>
  <div class="station">
    <header>
      <div class="head">
        <h1>{{ run.part }} · {{ run.what }}</h1>
        <p class="do" aria-live="polite">{{ run.sentence }}</p>
      </div>
      <TouchSign :safe="run.touch.safe" :word="run.touch.word" :why="run.touch.why" />
    </header>

    <div class="numbers">
      <p class="big">
        <span>{{ words.reform.across }}</span>
        <b class="num">{{ run.volts?.number ?? '–' }}</b><i class="num">V</i>
      </p>
      <p class="big">
        <span>{{ phase === 'feeding' ? words.reform.leaking : words.reform.flowing }}</span>
        <b class="num">{{ run.amperes?.number ?? '–' }}</b><i class="num">mA</i>
      </p>
      <p v-if="run.stage_s != null" class="side">
        <span>{{ words.reform.stage }}</span><b class="num">{{ clockOf(run.stage_s) }}</b>
      </p>
      <p v-else-if="run.empty_in_s != null" class="side">
        <span>{{ words.reform.emptyIn }}</span><b class="num">{{ clockOf(run.empty_in_s) }}</b>
      </p>
      <p v-if="run.forecast?.done_at" class="side right">
        <span>{{ words.reform.done }}, {{ run.forecast.give_or_take }}</span>
        <b class="num">{{ soon(run.forecast.done_at) }}</b>
      </p>
      <p v-else-if="phase === 'ready'" class="side right">
        <span>{{ words.reform.expected }}</span><b class="num">{{ run.state }}</b>
      </p>
    </div>

    <div class="middle" :class="{ two: phase !== 'feeding' }">
      <CautionList v-if="phase === 'ready'" :cautions="run.cautions" />
      <ReformChart
        v-else
        :samples="reform.samples.value"
        :earlier="reform.earlier.value"
        :band="run.forecast?.band"
        :aim="run.aim"
        :limit="run.limit"
        :limit-text="run.acceptance.find((a) => a.decides)?.limit"
        :peak="run.peak"
        :expected="run.expected_s"
        :running="phase === 'feeding'"
      />
      <ol v-if="phase === 'ready'" class="plan" :aria-label="words.reform.plan">
        <li v-for="s in run.stages" :key="s.volts">
          <b class="num">{{ s.volts }}</b> <span class="num">&lt; {{ s.go_on_below }}</span>
        </li>
      </ol>
      <ul v-else-if="phase !== 'feeding'" class="said" :aria-label="words.reform.record">
        <li v-for="(s, n) in latest" :key="n" :class="s.weight">
          <span class="num">{{ clockOf(s.at_s) }}</span> {{ s.text }}
        </li>
      </ul>
    </div>

    <p v-if="phase === 'feeding'" class="strip" aria-live="polite">
      <span v-if="run.forecast">{{ run.forecast.look_words }} {{ run.forecast.words }}.</span>
      <span
        v-for="s in latest.filter((l) => l.weight !== 'note').slice(0, 1)"
        :key="s.at_s"
        :class="s.weight"
      >
        {{ clockOf(s.at_s) }} {{ s.text }}
      </span>
    </p>
    <p v-if="elsewhere" class="wrong" role="alert">{{ elsewhere }}</p>

    <MeterEntry
      v-if="!simulated && phase !== 'over'"
      ref="entry"
      :reform="reform"
      :fed="phase === 'feeding'"
    />

    <footer>
      <template v-if="phase === 'feeding'">
        <button class="act stop" @click="reform.command('stop')">{{ words.reform.stop }} <kbd>S</kbd></button>
        <button class="act" @click="reform.command(run.held ? 'resume' : 'hold')">
          {{ run.held ? words.reform.resume : words.reform.hold }} <kbd>H</kbd>
        </button>
        <button class="act" @click="reform.command('hot')">{{ words.reform.hot }}</button>
      </template>
      <template v-else-if="phase === 'ready'">
        <button class="act main" :disabled="!run.touch.safe" @click="on">
          {{ words.reform.on }} <kbd>Enter</kbd>
        </button>
        <button class="act" @click="reform.remove()">{{ words.reform.remove }}</button>
      </template>
      <template v-else-if="phase === 'emptying'">
        <button v-if="run.empty_in_s == null" class="act main" @click="reform.command('discharge')">
          {{ words.reform.discharge }}
        </button>
      </template>
      <template v-else>
        <button class="act main" @click="toPart">{{ words.reform.toPart }}</button>
        <button v-if="run.leakage && !taken" class="act" @click="take">
          {{ words.reform.take }}: {{ run.leakage }}
        </button>
        <span v-if="taken" class="keep">{{ words.reform.taken }}</span>
        <button class="act" @click="reform.prepare(run.part_id)">{{ words.reform.again }}</button>
      </template>
      <button class="act" @click="sheet = 'note'">{{ words.reform.note }} <kbd>N</kbd></button>
      <span v-if="phase !== 'ready'" class="files">
        <a :href="`/api/reform/runs/${run.id}/record.csv`" download>{{ words.reform.files.csv }}</a>
        <a :href="`/api/reform/runs/${run.id}/record.json`" download>{{ words.reform.files.json }}</a>
        <a :href="`/api/reform/runs/${run.id}/chart.svg`" download>{{ words.reform.files.chart }}</a>
      </span>
      <span class="way" :title="simulated ? words.reform.simulatedWhy : words.reform.guidedWhy">
        {{ simulated ? words.reform.simulated : words.reform.guided }}
        <select
          v-if="simulated && phase !== 'over'"
          :value="run.speed"
          :aria-label="words.reform.speed"
          @change="reform.command('speed', { speed: Number(($event.target as HTMLSelectElement).value) })"
        >
          <option v-for="s in SPEEDS" :key="s" :value="s">{{ s }}×</option>
        </select>
      </span>
    </footer>
    <StartSheet v-if="sheet === 'start'" :reform="reform" @close="sheet = null" />
    <NoteSheet v-if="sheet === 'note'" :reform="reform" @close="sheet = null" />
  </div>
</template>

<style scoped>
.station {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 14px 20px;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  gap: 16px;
  justify-content: space-between;
  align-items: flex-start;
}
.head {
  min-width: 0;
}
h1 {
  font: 600 19px/1.3 var(--title);
  margin: 0 0 4px;
}
.do {
  font: 600 22px/1.25 var(--text);
}
.numbers {
  display: flex;
  gap: 40px;
  align-items: flex-end;
  flex-wrap: wrap;
}
.numbers span {
  display: block;
  color: var(--muted);
  font-size: 14px;
}
.big b {
  font-size: 62px;
  line-height: 1;
  font-weight: 500;
  color: var(--numeral);
  display: inline-block;
  min-width: 4.1ch;
  text-align: right;
}
.big i {
  font-style: normal;
  font-size: 24px;
  color: var(--numeral);
  margin-left: 8px;
}
.side b {
  font-size: 32px;
  line-height: 1.15;
  font-weight: 500;
}
.right {
  margin-left: auto;
  text-align: right;
}
.middle {
  flex: 1;
  min-height: 120px;
  display: grid;
}
.middle.two {
  grid-template-columns: minmax(0, 3fr) minmax(200px, 2fr);
  gap: 18px;
}
.plan {
  overflow-y: auto;
}
.plan li {
  display: flex;
  justify-content: space-between;
  padding: 6px 4px;
  border-bottom: 1px solid var(--edge);
}
.said {
  overflow-y: auto;
  font-size: 13.5px;
}
.said li {
  padding: 4px 0;
  border-bottom: 1px solid var(--edge);
}
.said span {
  color: var(--muted);
}
.warning {
  color: var(--watch);
}
.stop:not(button) {
  color: var(--replace);
}
.strip {
  display: flex;
  gap: 18px;
  color: var(--muted);
  min-height: 20px;
}
.wrong {
  color: var(--replace);
}
footer {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.act {
  min-height: 42px;
  padding: 8px 16px;
  border: 1px solid var(--edge-strong);
  border-radius: 9px;
  font-weight: 600;
}
.act.stop {
  background: var(--replace);
  border-color: var(--replace);
  color: #1d0d07;
}
:global(html.day .act.stop) {
  color: #fff;
}
.act.main {
  background: var(--lamp);
  border-color: var(--lamp);
  color: var(--lamp-ink);
}
.act:disabled {
  opacity: 0.5;
  cursor: default;
}
.files {
  display: flex;
  gap: 12px;
}
a {
  color: var(--light);
  min-height: 40px;
  display: inline-flex;
  align-items: center;
}
.way {
  margin-left: auto;
  color: var(--muted);
}
select {
  min-height: 40px;
  background: var(--panel-low);
  color: var(--light);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  font: 500 14px var(--num);
}
@media (max-width: 1100px) {
  header {
    flex-direction: column-reverse;
  }
  .numbers {
    gap: 20px;
  }
  .big b {
    font-size: 50px;
  }
}
</style>
