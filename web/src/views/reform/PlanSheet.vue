<script setup lang="ts">
import type { OfPart, PlanAnswer } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import ReformChart from '../../drawing/ReformChart.vue'
import { spanOf, when } from '../../format/time'
import { words } from '../../words/en'

/** The plan for a section: how long, by which rules, what to beware of; and how earlier runs of it went. */
defineProps<{ plan: PlanAnswer; runs: OfPart['runs']; busy: boolean }>()
const w = words.reform.form
</script>

<template>
  <div>
    <h2>{{ words.reform.plan }}</h2>
    <p class="takes">
      <template v-if="plan.expected_s != null">
        {{ w.takes }} <b class="num">{{ spanOf(plan.expected_s) }}</b>
      </template>
      <template v-else>{{ w.never }}</template>
    </p>
    <ul class="rows" tabindex="0" :aria-label="words.reform.plan">
      <li v-for="l in plan.lines" :key="l">{{ l }}</li>
    </ul>
    <CautionList class="cautions" :cautions="plan.cautions" />
    <button class="put" :disabled="busy">{{ w.put }}</button>
    <p class="source">{{ w.source }}: {{ plan.limits.source }}</p>
    <template v-if="runs.length">
      <h2>{{ w.past }}</h2>
      <p v-for="r in runs" :key="r.id" class="past">{{ when(r.at) }} · {{ r.ended }}</p>
      <div class="chart">
        <ReformChart
          :samples="runs[0]?.curve.samples ?? []"
          :earlier="runs.slice(1).map((r) => r.curve.samples)"
          :aim="plan.aim"
          :limit="plan.limits.decides"
          :peak="plan.peak_current"
          :expected="0"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
h2 {
  font: 600 var(--t-head)/1.6 var(--title);
}
.takes {
  font-size: var(--t-head);
  margin-bottom: var(--s6);
}
.takes b {
  font-size: var(--t-value);
  color: var(--numeral);
}
.cautions {
  margin: var(--s10) 0;
}
.put {
  min-height: 46px;
  padding: var(--s8) var(--s20);
  border-radius: 9px;
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
  margin-bottom: var(--s10);
}
.source {
  color: var(--muted);
  font-size: var(--t-note);
}
.past {
  font-size: var(--t-note);
}
.chart {
  height: 240px;
}
</style>
