<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, told, type Part, type Verdict } from '../../api/client'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import CircuitFacts from './CircuitFacts.vue'
import JudgedReading from './JudgedReading.vue'
import OtherVerdict from './OtherVerdict.vue'
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
/** Whether what decided is a reading of the value, whose drift means something. */
const ofValue = computed(() => {
  const r = props.part.deciding
  return !r || r.quantity === props.part.readable[0]?.quantities[0]
})

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
        <JudgedReading :part="part" :judgement="judgement" />
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
        <OtherVerdict
          v-if="other"
          v-model:decided="decided"
          v-model:why="why"
          :wrong="wrong('why')"
          @decide="decide(decided, why)"
        />
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
  font-size: var(--t-lead);
}
.call {
  display: flex;
  gap: var(--s14);
  align-items: center;
  margin: var(--s6) 0 var(--s8);
  padding: var(--s8) var(--s14);
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
  font: 650 var(--t-value)/1.1 var(--text);
}
.call p {
  font-size: var(--t-note);
  color: var(--light);
}
.matters {
  font-style: italic;
}
.decided .note {
  margin-left: var(--s10);
}
.decided {
  margin-top: var(--s8);
  padding: var(--s8) var(--s12);
  border-left: 3px solid var(--lamp);
  background: var(--baize);
  border-radius: 0 8px 8px 0;
}
</style>
