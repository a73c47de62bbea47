<script setup lang="ts">
import { computed, ref } from 'vue'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import UndoLast from '../bench/UndoLast.vue'
import { useBench } from '../bench/useBench'
import CauseNote from './CauseNote.vue'
import DisagreementNote from './DisagreementNote.vue'
import FitStep from './FitStep.vue'
import JudgeStep from './JudgeStep.vue'
import MeasureStep from './MeasureStep.vue'
import PinStep from './PinStep.vue'
import ProveStep from './ProveStep.vue'
import ReadStep from './ReadStep.vue'
import SafetyNote from './SafetyNote.vue'
import SuspectNote from './SuspectNote.vue'

/** What each step does on Enter, on D, and on its own digit once it stands. */
export interface StepKeys {
  main?: () => void
  /** Enters the field that the step is about. */
  enter?: () => void
  otherwise?: () => void
}

const bench = useBench()
const charged = computed(() => bench.live.value.find((r) => r.part_id === bench.strip.value?.id))
const current = ref<StepKeys>()
const steps = { read: ReadStep, measure: MeasureStep, judge: JudgeStep, fit: FitStep, prove: ProveStep }
const shown = computed(() => (bench.probed.value ? PinStep : steps[bench.step.value]))

defineExpose({
  main: () => current.value?.main?.(),
  enter: () => current.value?.enter?.(),
  otherwise: () => current.value?.otherwise?.(),
})
</script>

<template>
  <section class="station" :aria-label="words.station.label">
    <template v-if="bench.strip.value">
      <nav class="steps">
        <button
          v-for="(s, i) in bench.steps.filter((s) => bench.strip.value?.steps.includes(s))"
          :key="s"
          :class="{ on: s === bench.step.value, done: bench.strip.value.done.includes(s) }"
          :aria-current="s === bench.step.value ? 'step' : undefined"
          @click="bench.go({ step: s })"
        >
          {{ words.steps[s] }} <kbd>{{ i + 1 }}</kbd>
        </button>
      </nav>
      <div class="cautions">
        <p v-if="charged" class="caution" role="alert">
          <CautionSign /><span>{{ words.reform.onBench(charged.part) }}</span>
        </p>
        <SafetyNote v-if="bench.step.value === 'measure'" />
        <p v-for="c in bench.cautions.value" :key="c.text" class="caution" :title="c.source">
          <CautionSign /><span>{{ c.text }}</span>
        </p>
        <button v-if="bench.strip.value.bank" class="bank" @click="bench.openStage('banks')">
          {{ bench.strip.value.bank }} <span aria-hidden="true">→</span>
        </button>
      </div>
      <div v-if="bench.part.value" class="questions">
        <UndoLast :part="bench.part.value.id" />
        <DisagreementNote :key="bench.part.value.id" :part="bench.part.value" />
        <CauseNote :key="bench.part.value.id" :part="bench.part.value" />
        <SuspectNote :part="bench.part.value" />
      </div>
      <component
        :is="shown"
        v-if="bench.part.value"
        :key="`${bench.part.value.id}-${bench.step.value}`"
        ref="current"
        :part="bench.part.value"
        class="step"
      />
      <p v-else class="none" role="status">{{ words.tray.loading }}</p>
    </template>
    <p v-else class="none">{{ bench.ticket.value ? words.station.noPart : words.station.none }}</p>
  </section>
</template>

<style scoped>
.station {
  margin: var(--s12) var(--s16) var(--s10) var(--s4);
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  display: grid;
  grid-template-rows: auto auto auto minmax(0, 1fr);
  min-height: 0;
  overflow: hidden;
  box-shadow: 0 0 60px var(--lamp-glow);
}
.steps {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  border-bottom: 1px solid var(--edge);
}
.steps button {
  min-height: 42px;
  text-align: center;
  color: var(--muted);
  font-weight: 550;
  font-size: var(--t-note);
  border-right: 1px solid var(--edge);
}
.steps button:last-child {
  border: 0;
}
.steps .done {
  color: var(--keep);
}
.steps .on {
  color: var(--lamp-ink);
  background: var(--lamp);
}
.steps button:focus-visible {
  outline-offset: -3px;
}
.caution {
  display: flex;
  gap: var(--s10);
  align-items: center;
  padding: var(--s6) var(--s16);
  background: var(--caution);
  color: var(--caution-ink);
  font-size: var(--t-note);
  border-bottom: 1px solid var(--caution-edge);
}
.bank {
  width: 100%;
  min-height: 40px;
  padding: 0 var(--s16);
  text-align: left;
  font-size: var(--t-note);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  border-bottom: 1px solid var(--edge);
}
.bank:focus-visible {
  outline-offset: -3px;
}
.none {
  color: var(--muted);
  padding: 60px 24px;
  text-align: center;
  font-size: var(--t-lead);
}
.step {
  min-height: 0;
  grid-row: 4;
}
@media (max-width: 1100px) {
  .station {
    margin: var(--s4) var(--s8) var(--s8);
  }
}
</style>
<style>
/* what all five steps share: a body that scrolls above a foot that stays */
.station .step {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
}
.station .body {
  padding: var(--s12) var(--s16) var(--s10);
  overflow-y: auto;
  min-height: 0;
  scrollbar-width: thin;
  scrollbar-color: var(--edge-strong) transparent;
}
.station .title {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: var(--s12);
}
.station .title h2 {
  font: 600 var(--t-large)/1.25 var(--title);
  white-space: nowrap;
}
.station .title span {
  color: var(--muted);
  font-size: var(--t-small);
  text-align: right;
}
.station h3 {
  font: 600 var(--t-lead)/1.3 var(--title);
  margin: var(--s14) 0 var(--s4);
}
</style>
