<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import ReformChart from '../../drawing/ReformChart.vue'
import TouchSign from '../../drawing/TouchSign.vue'
import CautionList from '../../components/CautionList.vue'
import { clockOf } from '../../format/time'
import { words } from '../../words/en'
import MeterEntry from './MeterEntry.vue'
import NoteSheet from './NoteSheet.vue'
import RunActions from './RunActions.vue'
import RunNumbers from './RunNumbers.vue'
import StartSheet from './StartSheet.vue'
import type { Run } from '../../api/client'
import type { Reform } from './useReform'

const props = defineProps<{ reform: Reform; run: Run }>()
const run = computed(() => props.run)
const entry = useTemplateRef('entry')
const sheet = ref<'start' | 'note' | null>(null)
const simulated = computed(() => run.value.mode === 'simulated bench')
const phase = computed(() => run.value.phase)

/** The first time the server asks for a name: then the cautions are read. */
async function on() {
  if (await props.reform.start(null)) return
  if (props.reform.problem.value?.field === 'name') sheet.value = 'start'
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

    <RunNumbers :run="run" />

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
      <ol v-if="phase === 'ready'" class="rows plan" :aria-label="words.reform.plan">
        <li v-for="s in run.stages" :key="s.volts">
          <b class="num">{{ s.volts }}</b> <span class="num">&lt; {{ s.go_on_below }}</span>
        </li>
      </ol>
      <ul v-else-if="phase !== 'feeding'" class="rows said" :aria-label="words.reform.record">
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

    <RunActions :reform="reform" :run="run" @on="on" @note="sheet = 'note'" />
    <StartSheet v-if="sheet === 'start'" :reform="reform" @close="sheet = null" />
    <NoteSheet v-if="sheet === 'note'" :reform="reform" @close="sheet = null" />
  </div>
</template>

<style scoped>
.station {
  display: flex;
  flex-direction: column;
  gap: var(--s8);
  padding: var(--s14) var(--s20);
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  gap: var(--s16);
  justify-content: space-between;
  align-items: flex-start;
}
.head {
  min-width: 0;
}
h1 {
  font: 600 var(--t-large)/1.3 var(--title);
  margin: 0 0 var(--s4);
}
.do {
  font: 600 var(--t-value)/1.25 var(--text);
}
.middle {
  flex: 1;
  min-height: 120px;
  display: grid;
}
.middle.two {
  grid-template-columns: minmax(0, 3fr) minmax(200px, 2fr);
  gap: var(--s16);
}
.plan {
  overflow-y: auto;
}
.plan li {
  display: flex;
  justify-content: space-between;
}
.said {
  overflow-y: auto;
  font-size: var(--t-note);
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
  gap: var(--s16);
  color: var(--muted);
  min-height: 20px;
}
.wrong {
  color: var(--replace);
}
@media (max-width: 1100px) {
  header {
    flex-direction: column-reverse;
  }
}
</style>
