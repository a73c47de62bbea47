<script setup lang="ts">
import { computed } from 'vue'
import FeedDrawing from '../../drawing/FeedDrawing.vue'
import UndoLast from '../bench/UndoLast.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import FeedForm from './FeedForm.vue'
import SuspectList from './SuspectList.vue'
import { useFeeds } from './useFeeds'

/** The guilty part: a feed told a part a line, solved with each fault, drawn with what it does to the others. */
const bench = useBench()
const w = words.job.feed
const use = useFeeds()
const { data, problem, feed, draft, accused } = use
const answer = computed(() => feed.value?.answer ?? null)
const suspect = computed(() =>
  accused.value === null ? null : (answer.value?.suspects[accused.value] ?? null),
)
const flow = computed(() => suspect.value?.flow ?? answer.value?.flow ?? [])
const volts = computed(() => suspect.value?.volts_text ?? answer.value?.expected_text ?? {})
const written = computed(() => {
  const f = feed.value
  if (!f) return true
  return (
    draft.parts !== f.told ||
    draft.rail !== f.rail.text ||
    draft.name !== f.name ||
    draft.nodes.some((n) => {
      const now = f.nodes.find((x) => x.node === n.node)
      const was = n.node === 'rail' ? f.rail.text : now?.sheet_from_chart ? '' : (now?.sheet?.text ?? '')
      return n.sheet !== was || n.measured !== (now?.from_chart ? '' : (now?.measured?.text ?? ''))
    })
  )
})
function pick(name: string) {
  const at = answer.value?.suspects.findIndex((s) => s.ref === name) ?? -1
  if (at >= 0) accused.value = at
  else if (feed.value?.parts.find((p) => p.ref === name)?.on_tray) bench.select(name)
}
const onTray = computed(() => feed.value?.parts.filter((p) => p.on_tray).map((p) => p.ref) ?? [])
</script>

<template>
  <p v-if="problem && !data" class="desk problem" role="alert">
    {{ problem.detail }} <button class="link" @click="use.fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <FeedForm :use="use" :data="data" />
    <section class="desk" aria-live="polite">
      <UndoLast :part="null" />
      <p v-if="!feed" class="loading">{{ w.none }}</p>
      <template v-else>
        <p v-if="answer && !written" class="says" :class="answer.agrees ? 'keep' : ''">{{ answer.says }}</p>
        <p v-else-if="feed.missing && !written" class="watch">{{ feed.missing }}</p>
        <FeedDrawing
          :feed="feed"
          :flow="flow"
          :volts="volts"
          :healthy="answer?.expected_text ?? {}"
          :accused="suspect?.ref ?? null"
          :overloaded="suspect?.overloaded.map((o) => o.ref) ?? []"
          :label="answer?.says ?? feed.name"
          :class="{ old: written }"
          @pick="pick"
        />
        <SuspectList
          v-if="answer?.suspects.length"
          v-model="accused"
          :suspects="answer.suspects"
          :on-tray="onTray"
          @select="bench.select"
        />
        <template v-if="answer?.doubles.length">
          <h3>{{ w.doubles }}</h3>
          <ul>
            <li v-for="d in answer.doubles" :key="d.text">
              <b>{{ d.text }}</b> <span class="note">{{ d.because }}</span>
            </li>
          </ul>
        </template>
      </template>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 8fr) minmax(0, 15fr);
}
.says {
  font-size: var(--t-head);
  line-height: 1.45;
  padding-bottom: var(--s10);
}
.old {
  opacity: 0.45;
}
</style>
