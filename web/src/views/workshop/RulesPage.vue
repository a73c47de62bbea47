<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { api, Problem, told, type Rulebook } from '../../api/client'
import RuleArticle from '../../components/RuleArticle.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** The whole rule book, with the numbers of the school that the open ticket follows. */
const bench = useBench()
const book = ref<Rulebook | null>(null)
const problem = ref<string | null>(null)
/** The one that was looked for by its name. */
const sought = computed(() => bench.card.value)
onMounted(async () => {
  try {
    const query = { ticket: bench.ticketId.value ?? undefined }
    book.value = await told(api.GET('/api/rules', { params: { query } }))
    await nextTick()
    document.getElementById(`rule-${sought.value}`)?.scrollIntoView({ block: 'start' })
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e.detail
  }
})
</script>

<template>
  <div class="book">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else-if="!book" role="status">{{ words.rules.loading }}</p>
    <template v-else>
      <p class="note">{{ words.rules.note }}</p>
      <details v-for="r in book.rules" :id="`rule-${r.number}`" :key="r.number" :open="r.number === sought">
        <summary>
          <b class="num">{{ r.number }}</b> {{ r.title }}
        </summary>
        <RuleArticle :rule="r" />
      </details>
      <h3>{{ words.rules.publications }}</h3>
      <table>
        <tbody>
          <tr v-for="p in book.publications" :key="p.title">
            <th scope="row">{{ p.title }}</th>
            <td>{{ p.edition }}</td>
            <td>{{ p.what }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.book {
  max-width: 880px;
  padding: var(--s14) var(--s20) 24px;
}
.note {
  color: var(--muted);
  margin-bottom: var(--s8);
}
details {
  border-top: 1px solid var(--edge);
}
summary {
  min-height: 40px;
  padding: var(--s8) 0;
  cursor: pointer;
  font: 600 var(--t-head) var(--title);
}
summary b {
  display: inline-block;
  width: 52px;
  color: var(--muted);
  font-size: var(--t-body);
}
details :deep(.rule) {
  padding: 0 0 var(--s14) 52px;
}
h3 {
  font: 600 var(--t-head) var(--title);
  margin: var(--s20) 0 var(--s6);
}
table {
  width: 100%;
  font-size: var(--t-note);
}
th {
  text-align: left;
  font-weight: 600;
}
td,
th {
  padding: var(--s4) var(--s12) var(--s4) 0;
  vertical-align: top;
}
</style>
