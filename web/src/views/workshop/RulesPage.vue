<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, Problem, told, type Rulebook } from '../../api/client'
import RuleArticle from '../../components/RuleArticle.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** The whole rule book, with the numbers of the school that the open ticket follows. */
const bench = useBench()
const book = ref<Rulebook | null>(null)
const problem = ref<string | null>(null)
onMounted(async () => {
  try {
    const query = { ticket: bench.ticketId.value ?? undefined }
    book.value = await told(api.GET('/api/rules', { params: { query } }))
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
      <details v-for="r in book.rules" :key="r.number">
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
  padding: 14px 20px 24px;
}
.note {
  color: var(--muted);
  margin-bottom: 8px;
}
details {
  border-top: 1px solid var(--edge);
}
summary {
  min-height: 40px;
  padding: 9px 0;
  cursor: pointer;
  font: 600 16px var(--title);
}
summary b {
  display: inline-block;
  width: 52px;
  color: var(--muted);
  font-size: 14px;
}
details :deep(.rule) {
  padding: 0 0 14px 52px;
}
h3 {
  font: 600 16px var(--title);
  margin: 20px 0 6px;
}
table {
  width: 100%;
  font-size: 13.5px;
}
th {
  text-align: left;
  font-weight: 600;
}
td,
th {
  padding: 4px 12px 4px 0;
  vertical-align: top;
}
</style>
