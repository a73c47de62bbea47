<script setup lang="ts">
import { ref } from 'vue'
import { api, told, type Changes, type ProofOutcome } from '../../api/client'
import Field from '../../components/Field.vue'
import OutcomeButtons from '../../components/OutcomeButtons.vue'
import { useProofHeard } from '../../components/useProofHeard'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import AddChange from './AddChange.vue'
import PlanList from './PlanList.vue'
import { useStage } from './useStage'

/** One change at a time: what is open, what was proven alone, what a new fault would come from, what lies in which bag. */
const bench = useBench()
const w = words.job.changes
const {
  data,
  problem: away,
  ticket,
  fetch,
} = useStage((id) => told(api.GET('/api/tickets/{id}/changes', { params: { path: { id } } })))
type Change = Changes['changes'][number]
const proving = useSending(bench)
const undoing = useSending(bench)
const seen = ref('')
const { heard, hear } = useProofHeard(seen)
/** A change that left the set as it was, proven anew. */
const anew = ref<string | null>(null)

/** As the sentence says it; the server asks where it does not. */
const proveAsHeard = async (c: Change) => prove(c, (await hear()) ?? undefined)
async function prove(c: Change, outcome?: ProofOutcome) {
  const content = { id: c.id, outcome, seen: seen.value }
  const done = await proving.send(content, ({ key }) =>
    told(
      api.POST('/api/changes/{id}/proof', {
        params: { path: { id: c.id } },
        body: { key, outcome, seen: seen.value },
      }),
    ),
  )
  if (!done) return
  data.value = done
  seen.value = ''
  anew.value = null
}
async function undo(c: Change) {
  const done = await undoing.send({ undo: c.id }, ({ key }) =>
    told(api.POST('/api/changes/{id}/undo', { params: { path: { id: c.id } }, body: { key, why: '' } })),
  )
  if (done) data.value = done
}
const tone = (c: Change) => {
  if (c.outcome === 'worse') return 'replace'
  return c.outcome === 'better' && c.alone ? 'keep' : 'watch'
}
/** What left the set as it was is proven anew at its part, or here. */
const provable = (c: Change) =>
  c.outcome !== null && c.outcome !== 'better' && !c.undone_at && c.kind !== 'undo'
function status(c: Change) {
  if (c.undone_at) return w.undone
  if (c.outcome === 'better') return c.alone ? w.alone : w.together
  if (c.outcome) return words.prove.says[c.outcome]
  return c.is_open ? w.unproven : ''
}
</script>

<template>
  <p v-if="away && !data" class="desk problem" role="alert">
    {{ away.detail }} <button class="link" @click="fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <section class="desk">
      <p v-if="!data.changes.length" class="loading">{{ w.none }}</p>
      <ol class="rows grid all">
        <li v-for="c in [...data.changes].reverse()" :key="c.id" :class="{ open: c.id === data.open }">
          <span class="note num">{{ when(c.begun_at) }}</span>
          <div>
            <p class="what" :class="{ undone: c.undone_at }">
              <span class="kind">{{ c.kind }}</span> <b>{{ c.what }}</b>
            </p>
            <p v-if="c.over_open" class="watch">{{ w.over }} {{ c.over_open }}</p>
            <p v-if="c.seen" class="note">{{ c.seen }}</p>
            <template v-if="c.id === data.open || c.id === anew">
              <ElButton
                v-if="c.kind === 'part' && c.part"
                type="primary"
                @click="bench.go({ part: c.part, step: 'prove' })"
                >{{ w.partProve }}</ElButton
              >
              <form v-else class="prove" @submit.prevent="proveAsHeard(c)">
                <Field
                  v-slot="{ id, described }"
                  :label="w.prove"
                  :wrong="proving.wrong('seen') ?? proving.wrong('outcome')"
                >
                  <ElInput
                    :id="id"
                    v-model="seen"
                    class="text"
                    autocomplete="off"
                    :aria-describedby="described"
                  />
                </Field>
                <OutcomeButtons
                  :heard="heard"
                  :busy="proving.busy.value"
                  @choose="(outcome) => prove(c, outcome)"
                />
              </form>
            </template>
          </div>
          <span class="status">
            <span v-if="status(c)" :class="c.undone_at ? 'note' : tone(c)">
              <VerdictMark v-if="!c.undone_at" :verdict="tone(c)" :size="16" />
              {{ status(c) }}
            </span>
            <ElButton v-if="provable(c) && c.id !== anew" text @click="anew = c.id">{{ w.anew }}</ElButton>
            <ElPopconfirm
              v-if="c.kind !== 'part' && c.kind !== 'undo' && !c.undone_at"
              :title="w.undoAsk"
              width="270"
              @confirm="undo(c)"
            >
              <template #reference
                ><ElButton text>{{ w.undo }}</ElButton></template
              >
            </ElPopconfirm>
          </span>
        </li>
      </ol>
    </section>
    <section class="desk">
      <PlanList />
      <h3>{{ w.since }}</h3>
      <p :class="data.since_good_text ? 'watch' : 'keep'">{{ data.since_good_text ?? w.good }}</p>
      <h3>{{ w.add }}</h3>
      <AddChange :kinds="data.kinds" :ticket="ticket" @added="(now) => (data = now)" />
      <p
        v-for="s in [proving, undoing]"
        v-show="s.problem.value && !s.problem.value.field"
        :key="String(s)"
        class="problem"
        role="alert"
      >
        {{ s.problem.value?.detail }}
      </p>
      <h3>{{ w.out }}</h3>
      <p v-if="!data.taken_out.length" class="note">{{ w.outNone }}</p>
      <ul v-else class="rows grid out">
        <li v-for="t in data.taken_out" :key="t.part">
          <b>{{ t.part }}</b>
          <span>{{ t.bag || w.noBag }}</span>
          <span class="note">{{ w.for }} {{ t.replaced_by }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 13fr) minmax(0, 9fr);
}
.all {
  --row: 96px 1fr auto;
}
.all > li {
  padding: var(--s8);
}
.open {
  background: var(--watch-low);
  border-radius: 8px;
}
.kind {
  display: inline-block;
  min-width: 64px;
  color: var(--muted);
  font-size: var(--t-small);
}
.what b {
  font-size: var(--t-lead);
}
.undone b {
  text-decoration: line-through;
}
.status {
  display: grid;
  justify-items: end;
  align-content: start;
  gap: var(--s2);
}
.status > span {
  display: flex;
  gap: var(--s6);
  align-items: center;
  font-weight: 600;
  font-size: var(--t-note);
}
.prove {
  display: grid;
  gap: var(--s8);
  margin-top: var(--s6);
}
.text :deep(input) {
  font-family: var(--text);
}
.out {
  --row: 70px 130px 1fr;
}
</style>
