<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, told, type Part, type Verdict } from '../../api/client'
import Field from '../../components/Field.vue'
import DriftGauge from '../../drawing/DriftGauge.vue'
import LimitDial from '../../drawing/LimitDial.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import CircuitFacts from './CircuitFacts.vue'
import PartTitle from './PartTitle.vue'
import ReasonList from './ReasonList.vue'
import SchoolVerdicts from './SchoolVerdicts.vue'
import { useDraft } from '../../components/useDraft'
import { useSending } from './useSending'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { busy, wrong, send } = useSending(bench)

const judgement = computed(() => props.part.judgement)
const tone = (v: Verdict) => (v === 'measure again' ? 'again' : v)
const decision = computed(() => (props.part.decision?.stands ? props.part.decision : null))
const against = computed(() => (props.part.judged_against ?? 'marked') as 'marked' | 'sheet' | 'fitted')
/** The reading that decided; the fitted part's own measurement has none in the list. */
const reading = computed(() => props.part.deciding ?? null)
const shown = computed(() => reading.value?.measured ?? judgement.value?.gauge?.reading?.shown ?? null)
/** Whether what decided is a reading of the value, whose drift means something. */
const ofValue = computed(
  () => !reading.value || reading.value.quantity === props.part.readable[0]?.quantities[0],
)
/** Three dials for an electrolytic; one gauge of the value for the others. */
const dials = computed(() => judgement.value?.dials ?? [])
const gauge = computed(() =>
  dials.value.length || !judgement.value?.gauge?.reading ? null : judgement.value.gauge,
)

const other = ref(false)
const decided = ref<Verdict>('keep')
const why = useDraft(`${props.part.id}:why`, 0)

async function decide(call: Verdict, reason: string) {
  const content = { decided: call, why: reason, version: props.part.version }
  const done = await send(content, ({ key }) =>
    told(
      api.POST('/api/parts/{id}/decisions', {
        params: { path: { id: props.part.id } },
        body: { ...content, key },
      }),
    ),
  )
  if (!done) return
  why.value = ''
  other.value = false
  after(call)
}
/** Where a decision leads. */
function after(call: Verdict) {
  if (call === 'replace') bench.go({ step: 'fit' })
  else if (call === 'measure again') bench.go({ step: 'measure' })
  else bench.move(1)
}
function main() {
  const j = judgement.value
  if (!j) return
  if (other.value) void decide(decided.value, why.value)
  else if (decision.value) after(decision.value.decided)
  else if (j.verdict === 'measure again') bench.go({ step: 'measure' })
  else void decide(j.verdict, '')
}
function otherwise() {
  if (!judgement.value) return
  other.value = true
  decided.value = judgement.value.verdict === 'keep' ? 'replace' : 'keep'
}
defineExpose({ main, otherwise })
</script>

<template>
  <div>
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="part.matters" class="note matters">{{ part.matters }}</p>
      <p v-if="!judgement" class="nothing">{{ words.judge.nothing }}</p>
      <template v-else>
        <div v-if="dials.length" class="dials">
          <LimitDial v-for="d in dials" :key="d.quantity" :dial="d" />
        </div>
        <div v-else class="read">
          <div class="n num">
            <template v-if="shown">
              {{ shown.number }}<small>{{ shown.unit }}</small>
            </template>
            <template v-else-if="reading?.overrange">{{ words.tray.overrange }}</template>
            <template v-else>–</template>
          </div>
          <div v-if="reading" class="meta">
            <template v-if="reading.called !== 'resistance'">{{ reading.called }}, </template
            >{{ reading.state }}<template v-if="reading.hot">, {{ words.measure.hotShort }}</template
            ><br />
            {{ reading.instrument || reading.mode }}
            {{ [reading.test_voltage, reading.test_frequency].filter(Boolean).join(', ') }}
            {{ reading.accuracy }}<br />
            {{ when(reading.taken_at) }}
          </div>
        </div>
        <DriftGauge v-if="gauge" :gauge="gauge" :against="against" />
        <div class="call" :class="tone(judgement.verdict)" data-test="verdict">
          <VerdictMark :verdict="judgement.verdict" :size="32" />
          <div>
            <b>{{ words.verdict[judgement.verdict] }}</b>
            <p>
              <template v-if="judgement.deviation_text && ofValue"
                >{{ judgement.deviation_text }} ·
              </template>
              <template v-if="judgement.next.length">{{ judgement.next.join('; ') }}</template>
              <template v-else>{{
                judgement.certain ? words.judge.certain : words.judge.uncertain
              }}</template>
            </p>
          </div>
        </div>
        <ReasonList :judgement="judgement" />
        <CircuitFacts :key="part.id" :part="part" />
        <SchoolVerdicts :judgement="judgement" :own="bench.ticket.value?.school" />
        <p v-if="part.family_known" class="note" :title="part.family_known.source">
          {{ part.family }}: {{ part.family_known.failure
          }}<template v-if="part.family_known.reliable_from"
            >; {{ words.judge.reliable }} {{ part.family_known.reliable_from }}</template
          ><template v-if="judgement.verdict === 'replace' && part.family_known.replaced_by"
            >; {{ words.judge.replacedBy }} {{ part.family_known.replaced_by }}</template
          >
        </p>
        <p v-if="part.decision && !part.decision.stands && !part.fittings.length" class="note">
          {{ words.judge.stale }}
        </p>
        <div v-if="decision" class="decided">
          {{ words.judge.decided }}
          <b :class="tone(decision.decided)">{{ words.verdict[decision.decided] }}</b>
          <template v-if="decision.decided !== decision.offered">
            ({{ words.judge.against }} {{ words.verdict[decision.offered] }}) {{ words.judge.because }} “{{
              decision.why
            }}”
          </template>
          <span class="note num">{{ when(decision.decided_at) }}</span>
        </div>
        <form v-if="other" class="other" @submit.prevent="decide(decided, why)">
          <fieldset>
            <legend class="sr">{{ words.judge.otherwise }}</legend>
            <label
              v-for="v in bench.workshop.value?.words.verdicts ?? []"
              :key="v"
              :class="[{ on: decided === v }, tone(v)]"
            >
              <input v-model="decided" type="radio" name="decided" :value="v" class="sr" />
              <VerdictMark :verdict="v" :size="16" />{{ words.verdict[v] }}
            </label>
          </fieldset>
          <Field v-slot="{ id }" :label="words.judge.why" :wrong="wrong('why')">
            <ElInput :id="id" v-model="why" autofocus autocomplete="off" />
          </Field>
        </form>
      </template>
    </div>
    <div v-if="judgement" class="foot">
      <template v-if="other">
        <ElButton type="primary" :loading="busy" @click="decide(decided, why)">
          {{ words.judge.accept }}{{ words.verdict[decided] }} <kbd>Enter</kbd>
        </ElButton>
        <ElButton @click="other = false">{{ words.judge.cancel }}</ElButton>
      </template>
      <template v-else>
        <ElButton type="primary" :loading="busy" @click="main">
          <template v-if="decision?.decided === 'replace'">{{ words.judge.fit }}</template>
          <template v-else-if="decision && decision.decided !== 'measure again'">{{
            words.judge.next
          }}</template>
          <template v-else-if="decision || judgement.verdict === 'measure again'">{{
            words.judge.measure
          }}</template>
          <template v-else>{{ words.judge.accept }}{{ words.verdict[judgement.verdict] }}</template>
          <kbd>Enter</kbd>
        </ElButton>
        <ElButton @click="otherwise">{{ words.judge.otherwise }} <kbd>D</kbd></ElButton>
      </template>
    </div>
  </div>
</template>

<style scoped>
.nothing {
  color: var(--muted);
  padding: 30px 0;
  font-size: 15px;
}
.read {
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: 10px;
  margin: 4px 0 2px;
}
.n {
  font-size: 52px;
  line-height: 1.05;
  font-weight: 500;
  color: var(--numeral);
  text-shadow: 0 0 24px var(--lamp-glow);
}
.n small {
  font-size: 26px;
  margin-left: 6px;
}
.meta {
  text-align: right;
  font-size: 12.5px;
  color: var(--muted);
  line-height: 1.4;
}
.call {
  display: flex;
  gap: 14px;
  align-items: center;
  margin: 6px 0 8px;
  padding: 9px 14px;
  border-radius: 9px;
  border: 1px solid currentColor;
}
.call.keep {
  background: var(--keep-low);
}
.call.watch {
  background: var(--watch-low);
}
.call.replace {
  background: var(--replace-low);
}
.call.again {
  background: var(--again-low);
}
.call b {
  font: 650 22px/1.1 var(--text);
}
.call p {
  font-size: 13.5px;
  color: var(--light);
}
.matters {
  font-style: italic;
}
.dials {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px;
  margin: 8px 0 4px;
}
.decided .note {
  margin-left: 10px;
}
.decided {
  margin-top: 8px;
  padding: 8px 12px;
  border-left: 3px solid var(--lamp);
  background: var(--baize);
  border-radius: 0 8px 8px 0;
}
.other {
  margin-top: 10px;
  display: grid;
  gap: 8px;
}
.other fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.other label:has(input) {
  min-height: 40px;
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 0 12px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  font-weight: 600;
  cursor: pointer;
}
.other label.on {
  box-shadow: inset 0 0 0 2px currentColor;
  background: var(--baize);
}
.other label:focus-within {
  outline: 2px solid var(--focus);
  outline-offset: 2px;
}
</style>
