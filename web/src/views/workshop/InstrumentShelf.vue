<script setup lang="ts">
import { ref } from 'vue'
import type { Instrument } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import InstrumentForm from './InstrumentForm.vue'

/** The instruments as cards: what each measures, how closely, and when it was last checked. */
const bench = useBench()
const editing = ref<Instrument | 'new' | null>(null)
</script>

<template>
  <InstrumentForm
    v-if="editing"
    :key="editing === 'new' ? 'new' : editing.id"
    :change="editing === 'new' ? null : editing"
    @close="editing = null"
  />
  <div v-else class="shelf">
    <p v-if="!bench.workshop.value" class="note" role="status">{{ words.workshop.loading }}</p>
    <p v-else-if="bench.workshop.value.instruments.length === 0" class="note">{{ words.workshop.empty }}</p>
    <ul>
      <li v-for="i in bench.workshop.value?.instruments ?? []" :key="i.id">
        <button class="card" :class="{ retired: i.retired }" @click="editing = i">
          <span class="head">
            <b>{{ i.name }}</b>
            <span
              >{{ i.kind }}<template v-if="i.retired">, {{ words.workshop.retired }}</template></span
            >
          </span>
          <span v-for="w in i.ways" :key="w.id" class="way">
            <span>{{ w.name }}</span>
            <span class="num">{{
              [w.test_voltage, w.test_frequency].filter(Boolean).join(', ') || w.mode
            }}</span>
            <span class="num">{{ w.accuracy ?? `${w.ranges.length} ranges` }}</span>
          </span>
          <span class="checked" :class="{ overdue: i.overdue }">
            <template v-if="i.checked_on"
              >{{ words.workshop.checked }} <span class="num">{{ i.checked_on }}</span></template
            >
            <template v-else>{{ words.workshop.never }}</template>
            <span v-if="i.address" class="num at">{{ i.address }}</span>
            <b v-if="i.overdue">{{ words.workshop.overdue }}</b>
          </span>
        </button>
      </li>
      <li>
        <button class="card add" @click="editing = 'new'">+ {{ words.workshop.add }}</button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.shelf {
  overflow-y: auto;
  padding: var(--s16) var(--s20);
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(376px, 1fr));
  gap: var(--s14);
  align-items: stretch;
}
li {
  display: grid;
}
.card {
  background: linear-gradient(90deg, var(--strip), var(--strip-low));
  border: 1px solid var(--edge);
  border-radius: 10px;
  padding: var(--s12) var(--s16);
  display: grid;
  gap: var(--s4);
  align-content: start;
  min-height: 120px;
}
.at {
  float: right;
}
.card:hover {
  border-color: var(--lamp);
}
.retired {
  opacity: 0.65;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: var(--s10);
  margin-bottom: var(--s4);
}
.head b {
  font: 600 var(--t-head)/1.2 var(--title);
}
.head span {
  color: var(--muted);
  font-size: var(--t-small);
}
.way {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 150px;
  gap: var(--s12);
  font-size: var(--t-note);
}
.way .num {
  color: var(--muted);
  font-size: var(--t-small);
}
.checked {
  margin-top: auto;
  padding-top: var(--s8);
  color: var(--muted);
  font-size: var(--t-small);
  display: flex;
  gap: var(--s10);
}
.overdue b {
  color: var(--watch);
}
.add {
  border-style: dashed;
  place-items: center;
  align-content: center;
  color: var(--muted);
  font-size: var(--t-lead);
}
</style>
