<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { api, told, type Part, type ProofOutcome } from '../../api/client'
import Field from '../../components/Field.vue'
import OutcomeButtons from '../../components/OutcomeButtons.vue'
import { useProofHeard } from '../../components/useProofHeard'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PartTitle from './PartTitle.vue'
import { useDraft } from '../../components/useDraft'
import { useFirstAsked } from './useFirstAsked'
import { useSending } from './useSending'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { busy, wrong, send } = useSending(bench)

const fitting = computed(() => props.part.fittings.filter((f) => !f.withdrawn_at).at(-1) ?? null)
const proof = computed(() => fitting.value?.proof ?? null)
/** What left the set as it was, or made it worse, is proven anew; what works is proven. */
const open = computed(() => fitting.value !== null && proof.value?.outcome !== 'better')
const TONES = { better: 'keep', 'as before': 'watch', worse: 'replace' } as const
const undoing = useSending(bench)
async function undo() {
  const f = fitting.value
  if (!f || !open.value) return
  const done = await undoing.send({ undo: f.id }, ({ key }) =>
    told(
      api.POST('/api/fittings/{id}/withdrawal', { params: { path: { id: f.id } }, body: { key, why: '' } }),
    ),
  )
  if (done) bench.go({ step: 'fit' })
}
const checks = reactive<Record<string, string>>({})
const wrongCheck = (i: number) => wrong(`checks[${i}].found`)
/** The checks that were answered, in their order. */
const checked = computed(() =>
  props.part.checks
    .filter((c) => (checks[c.check] ?? '').trim() !== '')
    .map((c) => ({ check: c.check, found: c.kind === 'tick' ? '' : (checks[c.check] ?? '') })),
)
const before = computed(() => props.part.readings.filter((r) => r.before_fitting).at(-1) ?? null)
const seen = useDraft(`${props.part.id}:seen`, 0)
const field = ref<HTMLTextAreaElement>()
const { heard, hear } = useProofHeard(seen)
const buttons = ref<InstanceType<typeof OutcomeButtons>>()

/** Takes it as the sentence says it; where it does not, the hand says which. */
async function proveAsHeard() {
  if (!seen.value.trim()) field.value?.focus()
  else {
    const outcome = await hear()
    if (outcome) await prove(outcome)
    else buttons.value?.ask()
  }
}
async function prove(outcome: ProofOutcome) {
  const f = fitting.value
  if (!f || !open.value) return
  const content = { outcome, seen: seen.value, checks: checked.value }
  const done = await send(content, ({ key }) =>
    told(api.POST('/api/fittings/{id}/proof', { params: { path: { id: f.id } }, body: { ...content, key } })),
  )
  if (!done) return
  seen.value = ''
  for (const c of Object.keys(checks)) checks[c] = ''
}
const hint = computed(() => {
  if (!seen.value.trim()) return undefined
  return heard.value ? `${words.prove.hears} ${words.prove.says[heard.value]}` : words.prove.which
})
const { first } = useFirstAsked(bench, () => props.part)
defineExpose({
  enter: () => field.value?.focus(),
  main: () => {
    if (!open.value) bench.move(1)
    else if (props.part.first_asked) first()
    else void proveAsHeard()
  },
})
</script>

<template>
  <div>
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="!fitting" class="nothing">{{ words.prove.nothing }}</p>
      <template v-else>
        <div class="sides">
          <div>
            <span>{{ words.prove.before }}</span>
            <b class="num">{{
              before?.overrange ? words.tray.overrange : (before?.measured?.text ?? '–')
            }}</b>
            <span>{{ part.in_words }}</span>
          </div>
          <div class="after">
            <span>{{ words.prove.after }}</span>
            <b class="num">{{ fitting.measured?.text ?? fitting.value?.text ?? '–' }}</b>
            <span
              >{{ fitting.description }}<template v-if="fitting.deviation">, {{ fitting.deviation }}</template
              ><template v-else-if="fitting.unmeasured">, {{ words.prove.notMeasured }}</template></span
            >
          </div>
        </div>
        <p v-if="open && part.stage_to_prove.length > 1" class="watch">
          {{ words.prove.stage(part.stage_to_prove.join(', ')) }}
        </p>
        <ul v-if="open && part.checks.length" class="checks">
          <li v-for="c in part.checks" :key="c.check">
            <ElCheckbox
              v-if="c.kind === 'tick'"
              :model-value="checks[c.check] === 'yes'"
              @update:model-value="(v: unknown) => (checks[c.check] = v ? 'yes' : '')"
              >{{ c.ask }}</ElCheckbox
            >
            <Field
              v-else
              v-slot="{ id, described }"
              :label="c.ask"
              :wrong="wrongCheck(checked.findIndex((x) => x.check === c.check))"
            >
              <ElInput
                :id="id"
                :model-value="checks[c.check] ?? ''"
                :aria-describedby="described"
                autocomplete="off"
                @update:model-value="(v: string) => (checks[c.check] = v)"
              />
            </Field>
          </li>
        </ul>
        <p v-if="open && proof" class="watch">{{ words.prove.anew }}</p>
        <form v-if="open" @submit.prevent="proveAsHeard">
          <Field v-slot="{ id, described }" :label="words.prove.seen" :wrong="wrong('seen')" :hint="hint">
            <textarea
              :id="id"
              ref="field"
              v-model="seen"
              rows="2"
              class="big-entry seen"
              :class="{ 'wrong-entry': wrong('seen') }"
              :placeholder="words.prove.example"
              :aria-describedby="described"
              @keydown.enter.exact.prevent="proveAsHeard"
            ></textarea>
          </Field>
        </form>
        <ol class="rows grid history">
          <li v-for="f in [...part.fittings].reverse()" :key="f.id">
            <span class="note num">{{ when(f.fitted_at) }}</span>
            <span>
              {{ words.prove.fitted }} <b :class="{ undone: f.withdrawn_at }">{{ f.description }}</b>
              <template v-if="f.note"> · {{ f.note }}</template>
              <template v-if="f.test"> · {{ words.prove.tested }} {{ f.test }}</template>
              <span v-if="f.despite" class="watch taken">{{ words.prove.despite }} {{ f.despite }}</span>
              <span v-for="t in f.taken" :key="t" class="note taken">{{ words.prove.from }} {{ t }}</span>
            </span>
            <template v-if="f.withdrawn_at">
              <span class="note num">{{ when(f.withdrawn_at) }}</span>
              <span class="note"
                >{{ words.prove.undone }}{{ f.withdrawn_why ? `: ${f.withdrawn_why}` : '' }}</span
              >
            </template>
            <template v-if="f.proof">
              <span class="note num">{{ when(f.proof.proven_at) }}</span>
              <span :class="TONES[f.proof.outcome]" class="proof">
                <VerdictMark :verdict="TONES[f.proof.outcome]" :size="18" />
                <b>{{ words.prove.outcome[f.proof.outcome] }}</b>
                <span class="seen-text">{{ f.proof.seen }}</span>
                <span v-if="f.proof.earlier.length" class="note"
                  >{{ words.prove.earlier }} {{ f.proof.earlier.join(' · ') }}</span
                >
                <span v-if="f.proof.checks.length" class="note">{{ f.proof.checks.join(' · ') }}</span>
              </span>
            </template>
          </li>
        </ol>
      </template>
    </div>
    <div v-if="open" class="foot">
      <ElButton v-if="part.first_asked" type="primary" @click="first">
        {{ words.fit.first[part.first_asked.question] }} <kbd>Enter</kbd>
      </ElButton>
      <OutcomeButtons
        ref="buttons"
        :heard="heard"
        :busy="busy"
        :quiet="part.first_asked !== null"
        @choose="prove"
      />
      <ElPopconfirm :title="words.prove.undoAsk" width="280" @confirm="undo">
        <template #reference
          ><ElButton text>{{ words.prove.undo }}</ElButton></template
        >
      </ElPopconfirm>
    </div>
  </div>
</template>

<style scoped>
.nothing {
  color: var(--muted);
  padding: 30px 0;
  font-size: var(--t-lead);
}
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s12);
  margin: var(--s10) 0 var(--s14);
}
.sides > div {
  background: var(--baize);
  border: 1px solid var(--edge);
  border-radius: 9px;
  padding: var(--s10) var(--s14);
  display: grid;
}
.sides span {
  color: var(--muted);
  font-size: var(--t-small);
}
.sides b {
  font-size: var(--t-far);
  font-weight: 500;
  line-height: 1.2;
  color: var(--light);
}
.sides .after b {
  color: var(--numeral);
}
.seen {
  font: 400 var(--t-head)/1.4 var(--text);
  resize: vertical;
}
.history {
  --row: 92px 1fr;
  margin-top: var(--s12);
}
.proof {
  display: flex;
  gap: var(--s6);
  align-items: flex-start;
}
.taken {
  display: block;
}
.undone {
  text-decoration: line-through;
}
.seen-text {
  color: var(--light);
}
.checks {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--s6);
  margin: var(--s10) 0;
}
.checks :deep(.el-checkbox) {
  height: auto;
  min-height: 32px;
  white-space: normal;
}
</style>
