<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import InstrumentShelf from './InstrumentShelf.vue'
import SchoolLedger from './SchoolLedger.vue'

/** What belongs to the workshop and not to a ticket: its instruments, and its own copies of the schools. */
const bench = useBench()
const page = useStorage<'instruments' | 'schools'>('owl-workshop', 'instruments')
</script>

<template>
  <section class="workshop" :aria-label="words.workshop.label">
    <nav>
      <button
        v-for="p in ['instruments', 'schools'] as const"
        :key="p"
        :class="{ on: page === p }"
        :aria-current="page === p ? 'page' : undefined"
        @click="page = p"
      >
        {{ words.workshop[p] }}
      </button>
      <button class="back" @click="bench.openTool(null)">{{ words.workshop.back }} <kbd>Esc</kbd></button>
    </nav>
    <InstrumentShelf v-if="page === 'instruments'" />
    <SchoolLedger v-else />
  </section>
</template>

<style scoped>
.workshop {
  grid-column: 1 / -1;
  grid-row: 1 / -1;
  min-height: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  margin: 12px 18px 10px 20px;
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  overflow: hidden;
}
nav {
  display: flex;
  border-bottom: 1px solid var(--edge);
}
nav button {
  min-height: 44px;
  padding: 4px 22px;
  color: var(--muted);
  font: 600 15px var(--title);
  border-right: 1px solid var(--edge);
}
nav button:focus-visible {
  outline-offset: -3px;
}
nav .on {
  color: var(--lamp-ink);
  background: var(--lamp);
}
nav .back {
  margin-left: auto;
  border: 0;
  font: 500 13.5px var(--text);
}
</style>
