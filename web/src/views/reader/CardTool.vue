<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import PageHead from '../../components/PageHead.vue'
import { api, connected, Problem, told, type Card, type CardName } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import '../../drawing/bands.css'

/** The tables of the codes, one bench card at a time, to be looked at or printed. */
const bench = useBench()
const names = ref<CardName[]>([])
const card = ref<Card | null>(null)
const wrong = ref<string | null>(null)
const chosen = computed(() => names.value.find((n) => n === bench.card.value) ?? names.value[0])

watch(
  [chosen, connected],
  async () => {
    try {
      if (names.value.length === 0) names.value = (await told(api.GET('/api/schemes'))).cards
      const name = chosen.value
      if (!name) return
      card.value = await told(api.GET('/api/card', { params: { query: { name } } }))
      wrong.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      wrong.value = e.detail
    }
  },
  { immediate: true },
)
function print() {
  window.print()
}
</script>

<template>
  <section class="cards" :aria-label="words.cards.label">
    <nav :aria-label="words.cards.label">
      <button
        v-for="n in names"
        :key="n"
        :class="{ on: n === chosen }"
        :aria-current="n === chosen ? 'page' : undefined"
        @click="bench.openTool('cards', n)"
      >
        {{ n }}
      </button>
    </nav>
    <article v-if="card" class="paper" tabindex="0" :aria-label="card.name">
      <PageHead :title="card.name">
        <div class="tools">
          <ElButton @click="print">{{ words.cards.print }}</ElButton>
          <ElButton @click="bench.openTool('reader')">{{ words.cards.reader }} <kbd>Esc</kbd></ElButton>
        </div>
      </PageHead>
      <p v-for="o in card.order" :key="o" class="order">{{ o }}</p>
      <table>
        <thead>
          <tr>
            <th v-for="(c, i) in card.columns" :key="i" scope="col">{{ c }}</th>
            <th scope="col" class="src">{{ words.cards.source }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in card.rows" :key="i">
            <td v-for="(text, n) in r.cells" :key="n" :class="{ num: n > 0 && text.length < 14 }">
              <i v-if="n === 0 && r.colour" :class="['chip', `c-${r.colour}`]" aria-hidden="true"></i
              >{{ text }}
            </td>
            <td class="src">{{ r.sources.map((s) => s + 1).join(' ') }}</td>
          </tr>
        </tbody>
      </table>
      <ol class="sources">
        <li v-for="(s, i) in card.sources" :key="i">{{ i + 1 }} {{ s }}</li>
      </ol>
    </article>
    <p v-else class="note" :role="wrong ? 'alert' : 'status'">{{ wrong ?? words.cards.loading }}</p>
  </section>
</template>

<style scoped>
.cards {
  grid-column: 1 / -1;
  grid-row: 1 / -1;
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  gap: var(--s16);
  padding: var(--s12) var(--s16) var(--s10) var(--s20);
  min-height: 0;
}
nav {
  overflow-y: auto;
  display: grid;
  align-content: start;
  gap: var(--s2);
}
nav button {
  min-height: 40px;
  padding: var(--s4) var(--s12);
  border-radius: 7px;
  color: var(--muted);
}
nav button.on {
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
}
.paper {
  background: var(--paper);
  color: #2a241b;
  border-radius: 6px;
  padding: var(--s16) 26px var(--s20);
  overflow: auto;
  box-shadow: 0 10px 40px var(--shadow);
}
.paper :deep(h2)::first-letter {
  text-transform: uppercase;
}
.order {
  font-size: var(--t-note);
  margin: var(--s2) 0;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-top: var(--s12);
  font-size: var(--t-body);
}
th {
  text-align: left;
  font-weight: 600;
  border-bottom: 2px solid #2a241b;
  padding: var(--s4) var(--s10) var(--s4) 0;
  vertical-align: bottom;
}
td {
  border-bottom: 1px solid #cdbf9f;
  padding: var(--s4) var(--s10) var(--s4) 0;
  vertical-align: top;
  white-space: normal;
}
.chip {
  display: inline-block;
  width: 26px;
  height: 14px;
  background: var(--band);
  border: 1px solid #0007;
  border-radius: 3px;
  margin-right: var(--s8);
  vertical-align: -2px;
}
.src {
  color: #5c5140;
  font-size: var(--t-fine);
  text-align: right;
  padding-right: 0;
}
.sources {
  margin-top: var(--s14);
  font-size: var(--t-small);
  color: #4d4333;
}
@media (max-width: 1100px) {
  .cards {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
    padding: var(--s8);
  }
  nav {
    grid-auto-flow: column;
    overflow-x: auto;
  }
  nav button {
    white-space: nowrap;
  }
}
@media print {
  nav,
  .tools {
    display: none;
  }
  .cards {
    display: block;
    padding: 0;
  }
  .paper {
    background: #fff;
    box-shadow: none;
    padding: 0;
    overflow: visible;
  }
  .chip {
    print-color-adjust: exact;
  }
}
</style>
