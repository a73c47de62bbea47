<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, Problem, told, type Schemas } from '../../api/client'
import { when } from '../../format/time'
import { words } from '../../words/en'

/** What can be said in the line, by examples, and what it has refused so far. */
const examples = ref<Schemas['SpeechExample'][] | null>(null)
const refused = ref<Schemas['RefusedSentence'][] | null>(null)
const problem = ref<string | null>(null)
const w = words.speech

onMounted(async () => {
  try {
    examples.value = await told(api.GET('/api/speech'))
    refused.value = await told(api.GET('/api/refused-sentences'))
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e.detail
  }
})
const sections = computed(() => {
  const all = examples.value ?? []
  return [...new Set(all.map((e) => e.section))].map((name) => ({
    name,
    examples: all.filter((e) => e.section === name),
  }))
})
</script>

<template>
  <div class="desk speech" tabindex="0">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-else-if="!examples" class="loading" role="status">{{ words.workshop.loading }}</p>
    <section v-else :aria-label="w.title">
      <p class="note">{{ w.note }}</p>
      <template v-for="s in sections" :key="s.name">
        <h3>{{ s.name }}</h3>
        <dl>
          <template v-for="e in s.examples" :key="e.say">
            <dt class="num">{{ e.say }}</dt>
            <dd>
              <span v-if="e.asked" class="watch">{{ w.asks }}</span>
              <b v-for="(p, i) in e.pieces" :key="i" :class="{ first: i === 0 && !e.asked }">{{ p }}</b>
            </dd>
          </template>
        </dl>
      </template>
    </section>
    <section v-if="refused" :aria-label="w.refused">
      <h3>{{ w.refused }}</h3>
      <p v-if="!refused.length" class="note">{{ w.none }}</p>
      <template v-else>
        <p>
          <a class="link" href="/api/refused-sentences/export" download>{{ w.export }}</a>
        </p>
        <ul class="rows">
          <li v-for="(r, i) in refused" :key="i">
            <span class="note num">{{ when(r.said_at) }}</span>
            <b class="num">{{ r.sentence }}</b>
            <span class="note">{{ r.why }}{{ r.set ? ` · ${r.set}` : '' }}</span>
          </li>
        </ul>
      </template>
    </section>
  </div>
</template>

<style scoped>
.speech {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: var(--s20);
  align-items: start;
}
h3 {
  font: 600 var(--t-lead)/1.3 var(--title);
  margin: var(--s14) 0 var(--s4);
}
dl {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 0 var(--s14);
}
dt,
dd {
  padding: var(--s4) 0;
  border-top: 1px solid var(--edge);
  overflow-wrap: anywhere;
  white-space: normal;
}
dd {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s2) var(--s10);
}
dd b {
  font-weight: 400;
}
dd b.first {
  color: var(--keep);
  font-weight: 600;
}
.rows li {
  display: grid;
  padding: var(--s6) 0;
  border-top: 1px solid var(--edge);
}
@media (max-width: 1000px) {
  .speech {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
