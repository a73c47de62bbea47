<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, Problem, told, type Policies, type Policy } from '../../api/client'
import { words } from '../../words/en'
import PolicyForm from './PolicyForm.vue'

/** The schools as numbers, side by side; the workshop's own copies can be changed. */
const all = ref<Policies | null>(null)
const failed = ref<string | null>(null)
const columns = computed(() => [...(all.value?.schools ?? []), ...(all.value?.copies ?? [])])

async function load() {
  try {
    all.value = await told(api.GET('/api/policies'))
    failed.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    failed.value = e.detail
  }
}
onMounted(load)

/** The copy that is being made or changed. */
const editing = ref<Policy | null>(null)
</script>

<template>
  <div class="ledger">
    <p v-if="failed" class="wrong" role="alert">{{ failed }}</p>
    <p v-else-if="!all" class="note" role="status">{{ words.workshop.loading }}</p>
    <table v-else>
      <thead>
        <tr>
          <th>{{ words.workshop.number }}</th>
          <th v-for="p in columns" :key="p.name" :class="{ own: p.id }">
            <b>{{ p.name }}</b>
            <span v-if="p.id" class="note">{{ words.workshop.follows }} {{ p.school }}</span>
            <button @click="editing = p">{{ p.id ? words.judge.changeFacts : words.workshop.copy }}</button>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th>{{ words.workshop.limit }}</th>
          <td v-for="p in columns" :key="p.name">{{ words.workshop.limits[p.limit] }}</td>
        </tr>
        <tr>
          <th>{{ words.workshop.leakage }}</th>
          <td v-for="p in columns" :key="p.name">{{ p.leakage }}</td>
        </tr>
        <tr>
          <th>{{ words.workshop.condemns }}</th>
          <td v-for="p in columns" :key="p.name">
            {{ p.condemns.join(', ') || words.workshop.nobodyCondemned }}
          </td>
        </tr>
        <tr v-for="(n, i) in all.numbers" :key="n.number">
          <th :title="n.source">{{ n.label }}</th>
          <td v-for="p in columns" :key="p.name" class="num" :class="{ differs: p.values[i]?.differs }">
            {{ p.values[i]?.text }}
          </td>
        </tr>
      </tbody>
    </table>
    <PolicyForm
      v-if="editing && all"
      :key="editing.id ?? editing.name"
      :all="all"
      :policy="editing"
      @kept="(now) => ((all = now), (editing = null))"
      @close="editing = null"
    />
  </div>
</template>

<style scoped>
.ledger {
  overflow: auto;
  padding: 0 var(--s20) var(--s16);
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: var(--t-note);
}
thead th {
  position: sticky;
  top: 0;
  background: var(--panel);
  padding-top: var(--s12);
  vertical-align: bottom;
  z-index: 1;
}
thead b {
  font: 600 var(--t-lead)/1.2 var(--title);
  display: block;
}
thead .note {
  font-weight: 400;
  font-size: var(--t-fine);
  display: block;
}
thead button {
  min-height: 40px;
  color: var(--lamp);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  font-weight: 500;
}
th,
td {
  text-align: left;
  padding: var(--s6) var(--s10);
  border-bottom: 1px solid var(--edge);
}
tbody th {
  font-weight: 400;
  color: var(--muted);
  width: 34%;
}
.differs {
  color: var(--numeral);
  font-weight: 700;
}
.wrong {
  color: var(--replace);
}
</style>
