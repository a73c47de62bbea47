<script setup lang="ts">
import { useIntervalFn, useTimestamp } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { api, told, type Closing } from '../../api/client'
import Field from '../../components/Field.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { clockOf, when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import { useStage } from './useStage'

/** The end of the job: let it run and look at intervals, see what is left, close, hand the record over. */
const bench = useBench()
const w = words.job.close
const { data, problem, ticket, fetch } = useStage((id) =>
  told(api.GET('/api/tickets/{id}/closing', { params: { path: { id } } })),
)
const soaking = useSending(bench)
const looking = useSending(bench)
const closing = useSending(bench)
const form = reactive({ planned: '2 h', every: '15 min' })
const seen = ref('')
const text = ref('')
watch(
  data,
  (now, before) => {
    if (now && !before) text.value = now.words
  },
  { immediate: true },
)
const soak = computed(() => data.value?.soaks.at(-1) ?? null)
const running = computed(() =>
  soak.value && !data.value?.closed_at && soak.value.due_s !== null ? soak.value : null,
)
// The clock of the page runs on between two answers.
const now = useTimestamp({ interval: 1000 })
const elapsed = computed(() =>
  running.value ? Math.max((now.value - new Date(running.value.begun_at).getTime()) / 1000, 0) : 0,
)
const due = computed(() => (running.value?.due_s == null ? null : running.value.due_s - elapsed.value))
useIntervalFn(() => void fetch(), 60_000)

function take(done: Closing | undefined) {
  if (done) data.value = done
  return Boolean(done)
}
async function begin() {
  const id = ticket.value
  if (!id) return
  take(
    await soaking.send({ ...form }, ({ key }) =>
      told(api.POST('/api/tickets/{id}/soaks', { params: { path: { id } }, body: { ...form, key } })),
    ),
  )
}
async function look(well: boolean) {
  const s = running.value
  if (!s) return
  const content = { well, seen: seen.value, at: s.checks.length }
  const done = await looking.send(content, ({ key }) =>
    told(
      api.POST('/api/soaks/{id}/checks', {
        params: { path: { id: s.id } },
        body: { key, well, seen: seen.value },
      }),
    ),
  )
  if (take(done)) seen.value = ''
}
async function close(closed: boolean) {
  const id = ticket.value
  if (!id) return
  const body = { closed, words: text.value }
  take(
    await closing.send(body, ({ confirmed }) =>
      told(api.PUT('/api/tickets/{id}/closing', { params: { path: { id } }, body: { ...body, confirmed } })),
    ),
  )
}
const FILES = [
  { label: w.owner, path: 'report/owner', page: true },
  { label: w.technician, path: 'report/technician', page: true },
  { label: w.json, path: 'record.json', page: false },
  { label: w.parts, path: 'parts.csv', page: false },
  { label: w.readings, path: 'readings.csv', page: false },
  { label: w.voltages, path: 'voltages.csv', page: false },
]
</script>

<template>
  <p v-if="problem && !data" class="desk problem" role="alert">
    {{ problem.detail }} <button class="link" @click="fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <section class="desk">
      <h3>{{ w.soak }}</h3>
      <template v-if="running">
        <p class="clock">
          <b class="num">{{ clockOf(Math.min(elapsed, running.planned_s)) }}</b>
          <span class="note">{{ w.of }} {{ clockOf(running.planned_s) }}</span>
          <span v-if="due !== null" class="due num" :class="{ now: due <= 0 }">
            {{ due <= 0 ? w.dueNow : `${w.due} ${clockOf(due)}` }}
          </span>
        </p>
        <form class="look" @submit.prevent="look(true)">
          <Field v-slot="{ id, described }" :label="w.seen" :wrong="looking.wrong('seen')">
            <ElInput
              :id="id"
              v-model="seen"
              class="text"
              :placeholder="w.seenExample"
              autocomplete="off"
              :aria-describedby="described"
            />
          </Field>
          <div class="do">
            <ElButton type="primary" native-type="submit" :loading="looking.busy.value">{{
              w.well
            }}</ElButton>
            <ElButton @click="look(false)">{{ w.notWell }}</ElButton>
          </div>
        </form>
      </template>
      <form v-else-if="!data.closed_at" class="three" @submit.prevent="begin">
        <Field v-slot="{ id, described }" :label="w.planned" :wrong="soaking.wrong('planned')">
          <ElInput :id="id" v-model="form.planned" autocomplete="off" :aria-describedby="described" />
        </Field>
        <Field v-slot="{ id, described }" :label="w.every" :wrong="soaking.wrong('every')">
          <ElInput :id="id" v-model="form.every" autocomplete="off" :aria-describedby="described" />
        </Field>
        <ElButton type="primary" native-type="submit" :loading="soaking.busy.value">{{ w.begin }}</ElButton>
      </form>
      <ol v-for="s in [...data.soaks].reverse()" :key="s.id" class="looks">
        <li>
          <span class="note num">{{ when(s.begun_at) }}</span>
          <b>{{ w.ran }} {{ s.ran }}</b>
        </li>
        <li v-for="(c, i) in s.checks" :key="i">
          <span class="note num">{{ c.after }}</span>
          <span :class="c.well ? 'keep' : 'replace'" class="seen"
            ><VerdictMark :verdict="c.well ? 'keep' : 'replace'" :size="16" /> {{ c.seen }}</span
          >
        </li>
      </ol>
      <p
        v-for="s in [soaking, looking]"
        v-show="s.problem.value && !s.problem.value.field"
        :key="String(s)"
        class="problem"
        role="alert"
      >
        {{ s.problem.value?.detail }}
      </p>
    </section>
    <section class="desk">
      <p v-if="data.closed_at" class="closed keep">
        <VerdictMark verdict="keep" :size="26" /> {{ w.closed }}
        <span class="num">{{ when(data.closed_at) }}</span>
      </p>
      <template v-else>
        <h3>{{ w.left }}</h3>
        <p v-if="!data.left.length" class="keep">{{ w.nothing }}</p>
        <ul v-else class="left">
          <li v-for="l in data.left" :key="l" class="watch">{{ l }}</li>
        </ul>
      </template>
      <form class="words" @submit.prevent="close(true)">
        <Field v-slot="{ id, described }" :label="w.words" :wrong="closing.wrong('words')">
          <ElInput :id="id" v-model="text" type="textarea" :rows="3" :aria-describedby="described" />
        </Field>
        <p v-if="closing.wrong('closed')" class="watch" role="alert">{{ closing.wrong('closed') }}</p>
        <p v-if="closing.problem.value && !closing.problem.value.field" class="problem" role="alert">
          {{ closing.problem.value.detail }}
        </p>
        <div class="do">
          <ElButton type="primary" native-type="submit">{{
            data.closed_at ? w.keep : closing.problem.value?.ask ? w.closeAnyway : w.close
          }}</ElButton>
          <ElButton v-if="data.closed_at" @click="close(false)">{{ w.reopen }}</ElButton>
        </div>
      </form>
      <h3>{{ w.record }}</h3>
      <ul class="files">
        <li v-for="f in FILES" :key="f.path">
          <a
            class="link"
            :href="`/api/tickets/${ticket}/${f.path}`"
            :target="f.page ? '_blank' : undefined"
            :download="f.page ? undefined : ''"
            >{{ f.label }}</a
          >
        </li>
      </ul>
      <p class="note">{{ w.print }}</p>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 1fr) minmax(0, 1fr);
}
h3 {
  margin-top: 4px;
}
.clock {
  display: flex;
  align-items: baseline;
  gap: 6px 14px;
  flex-wrap: wrap;
}
.clock b {
  font-size: 46px;
  line-height: 1.1;
  font-weight: 500;
  color: var(--numeral);
}
.due {
  font-size: 19px;
}
.due.now {
  color: var(--watch);
  font-weight: 700;
}
.look,
.words {
  display: grid;
  gap: 8px;
}
.three {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 10px;
  align-items: end;
}
.do {
  display: flex;
  gap: 8px;
}
.looks {
  margin-top: 12px;
}
.looks li {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 10px;
  padding: 6px 0;
  border-top: 1px solid var(--edge);
}
.seen {
  display: flex;
  gap: 8px;
}
.closed {
  display: flex;
  gap: 10px;
  align-items: center;
  font: 600 20px var(--title);
}
.left li {
  padding: 4px 0;
  border-top: 1px solid var(--edge);
}
.files {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
}
.text :deep(input) {
  font-family: var(--text);
}
</style>
