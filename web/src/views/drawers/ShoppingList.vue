<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, Problem, told, type Feasibility, type Shopping } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import FeasibilityNote from './FeasibilityNote.vue'

/** What the open tickets lack and what has run low, equal pieces in one line; and whether the open set is worth it. */
const bench = useBench()
const list = ref<Shopping | null>(null)
const set = ref<Feasibility | null>(null)
const failure = ref<Problem | null>(null)
async function look() {
  try {
    list.value = await told(api.GET('/api/shopping'))
    const id = bench.ticketId.value
    set.value = id ? await told(api.GET('/api/tickets/{id}/feasibility', { params: { path: { id } } })) : null
    failure.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    failure.value = e
  }
}
onMounted(look)
</script>

<template>
  <div class="shopping">
    <p v-if="failure" class="wrong" role="alert">{{ failure.detail }}</p>
    <p v-else-if="!list" class="note" role="status">{{ words.drawers.loading }}</p>
    <template v-else>
      <FeasibilityNote v-if="set && bench.ticket.value" :set="set" :name="bench.ticket.value.name" />
      <p v-if="!list.lines.length" class="empty">{{ words.drawers.nothingToBuy }}</p>
      <table v-else>
        <thead>
          <tr>
            <th>{{ words.drawers.order }}</th>
            <th>
              <span class="sr">{{ words.drawers.what }}</span>
            </th>
            <th>{{ words.drawers.lacking }}</th>
            <th>{{ words.drawers.price }}</th>
            <th>{{ words.drawers.wantedFor }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in list.lines" :key="l.description">
            <td class="order num">{{ l.order }}</td>
            <td class="what">{{ l.description }}</td>
            <td class="num right">{{ l.lacking }}</td>
            <td class="num right">{{ l.price ?? '–' }}</td>
            <td class="for">{{ l.wanted_for.join(', ') }}</td>
          </tr>
        </tbody>
      </table>
      <p class="under">
        <a class="button" href="/api/shopping/export" download>{{ words.drawers.export }}</a>
        <span v-if="list.cost" class="note"
          >{{ words.drawers.cost }} <b class="num">{{ list.cost }}</b></span
        >
        <span v-if="list.without.length" class="note watch"
          >{{ words.drawers.without }} {{ list.without.join(', ') }}</span
        >
      </p>
    </template>
  </div>
</template>

<style scoped>
.shopping {
  overflow-y: auto;
  padding: var(--s12) var(--s16);
}
.empty {
  color: var(--muted);
  padding: 50px var(--s20);
  text-align: center;
  font-size: var(--t-lead);
}
.wrong {
  color: var(--replace);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-weight: 400;
  font-size: var(--t-fine);
  color: var(--muted);
  text-align: left;
  padding: var(--s4) var(--s10);
}
td {
  border-top: 1px solid var(--edge);
  padding: var(--s8) var(--s10);
  vertical-align: baseline;
}
.order {
  font-size: var(--t-value);
  color: var(--numeral);
  width: 80px;
  text-align: right;
}
th:first-child {
  text-align: right;
}
.what {
  font-size: var(--t-lead);
}
.right {
  width: 90px;
}
.for {
  color: var(--muted);
}
.under {
  display: flex;
  gap: var(--s16);
  align-items: center;
  padding: var(--s14) var(--s10);
}
.button {
  min-height: 40px;
  display: inline-flex;
  align-items: center;
  padding: var(--s4) var(--s14);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  color: var(--light);
  text-decoration: none;
  font-weight: 550;
}
.note.watch {
  color: var(--watch);
}
</style>
