<script setup lang="ts">
import { words } from '../../words/en'
import { useWorkshopPage } from '../workshop/pages'
import { useBench } from './useBench'

/** A workshop without a ticket: what belongs here before the first one, each with one press, none of it needed. */
const bench = useBench()
const emit = defineEmits<{ add: [] }>()
const w = words.firstDay
const page = useWorkshopPage()
function open(of: (typeof w.cards)[number]['page']) {
  page.value = of
  void bench.openTool('workshop')
}
</script>

<template>
  <section class="first-day" :aria-label="w.title">
    <h1>{{ w.title }}</h1>
    <p>{{ w.text }}</p>
    <ul>
      <li v-for="card in w.cards" :key="card.page">
        <h2>{{ card.title }}</h2>
        <p>{{ card.text }}</p>
        <button @click="open(card.page)">{{ card.press }}</button>
      </li>
    </ul>
    <div class="on">
      <button class="main" @click="emit('add')">{{ w.first }} <kbd>N</kbd></button>
      <button @click="bench.openTool('reader')">{{ w.reader }} <kbd>R</kbd></button>
    </div>
  </section>
</template>

<style scoped>
.first-day {
  grid-column: 1 / -1;
  grid-row: 1 / -1;
  overflow-y: auto;
  padding: var(--s20);
  display: grid;
  align-content: safe center;
  justify-items: center;
  gap: var(--s20);
  color: var(--muted);
  font-size: var(--t-lead);
}
h1 {
  font: 600 var(--t-sign) / 1.2 var(--title);
  color: var(--light);
  margin: 0;
}
.first-day > p {
  max-width: 62ch;
  text-align: center;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 270px), 1fr));
  gap: var(--s14);
  width: min(100%, 980px);
}
/* a card as it hangs on the wall over the bench */
li {
  background: var(--paper);
  color: var(--ink);
  border-radius: 6px;
  padding: var(--s14) var(--s20) var(--s20);
  display: grid;
  grid-template-rows: auto 1fr auto;
  gap: var(--s8);
  box-shadow: 0 6px 22px var(--shadow);
}
h2 {
  font: 600 var(--t-head) / 1.2 var(--title);
  margin: 0;
}
li p {
  font-size: var(--t-body);
  color: var(--ink-soft);
}
button {
  min-height: 48px;
  padding: var(--s8) var(--s20);
  border: 1px solid currentColor;
  border-radius: 8px;
  color: inherit;
  font-weight: 600;
}
li button {
  justify-self: start;
}
.on {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: var(--s10);
}
/* where the cards do not fit beside each other, the first set comes before them */
@media (max-width: 700px) {
  .on {
    order: -1;
  }
  h1,
  .first-day > p {
    order: -2;
  }
}
.on .main {
  background: var(--lamp);
  color: var(--lamp-ink);
  border-color: var(--lamp);
}
</style>
