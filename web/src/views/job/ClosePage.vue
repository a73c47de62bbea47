<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api, told, type Closing } from '../../api/client'
import Field from '../../components/Field.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import SafetyList from './SafetyList.vue'
import SoakTest from './SoakTest.vue'
import { useStage } from './useStage'

/** The end of the job: let it run and look at intervals, see what is left, close, hand the record over. */
const bench = useBench()
const w = words.job.close
const { data, problem, ticket, fetch } = useStage((id) =>
  told(api.GET('/api/tickets/{id}/closing', { params: { path: { id } } })),
)
const closing = useSending(bench)
const text = ref('')
/** The words upon which these are written. */
let seen = ''
watch(
  data,
  (now, before) => {
    if (!now) return
    // What another bench wrote comes in, unless it is being written here.
    if (!before || text.value === seen) {
      text.value = now.words
      seen = now.words
    }
  },
  { immediate: true },
)
useIntervalFn(() => void fetch(), 60_000)

function take(done: Closing | undefined) {
  if (done) data.value = done
}
/** After both were shown, what is sent next is sent upon what stands there. */
async function shown() {
  await fetch()
  seen = data.value?.words ?? ''
}
async function close(closed: boolean) {
  const id = ticket.value
  if (!id) return
  const body = { closed, words: text.value, seen }
  const done = await closing.send(body, ({ confirmed }) =>
    told(api.PUT('/api/tickets/{id}/closing', { params: { path: { id } }, body: { ...body, confirmed } })),
  )
  if (done) seen = done.words
  take(done)
  if (bench.conflict.value) await shown()
}
const FILES = [
  { label: w.owner, path: 'report/owner', page: true },
  { label: w.technician, path: 'report/technician', page: true },
  { label: w.tar, path: 'record.tar', page: false },
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
    <div class="before">
      <SafetyList before="closing" @ticked="fetch" />
      <SoakTest :closing="data" :ticket="ticket" @taken="take" />
    </div>
    <section class="desk">
      <p v-if="data.closed_at" class="closed keep">
        <VerdictMark verdict="keep" :size="26" /> {{ w.closed }}
        <span class="num">{{ when(data.closed_at) }}</span>
      </p>
      <template v-else>
        <h3>{{ w.left }}</h3>
        <p v-if="!data.left.length" class="keep">{{ w.nothing }}</p>
        <ul v-else class="rows">
          <li v-for="l in data.left" :key="l" :class="data.unsafe_to_go.includes(l) ? 'replace' : 'watch'">
            {{ l }}
          </li>
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
  margin-top: var(--s4);
}
.do {
  display: flex;
  gap: var(--s8);
}
.closed {
  display: flex;
  gap: var(--s10);
  align-items: center;
  font: 600 var(--t-large) var(--title);
}
.before {
  display: grid;
  align-content: start;
}
.before > .safety {
  margin: var(--s14) var(--s16) 0;
}
.files {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 var(--s14);
}
.words {
  display: grid;
  gap: var(--s8);
}
</style>
