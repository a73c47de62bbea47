<script setup lang="ts">
import { ref } from 'vue'
import type { Ticket } from '../../api/client'
import { words } from '../../words/en'
import IntakePage from './IntakePage.vue'
import SetPage from './SetPage.vue'
import WorthPage from './WorthPage.vue'

/** Check-in: the set as it came in, what is known of its supply, and whether it is worth repairing. */
defineProps<{ ticket: Ticket }>()
const pages = ['intake', 'set', 'worth'] as const
const page = ref<(typeof pages)[number]>('intake')
</script>

<template>
  <div class="pages">
    <nav :aria-label="words.job.stages.intake">
      <button
        v-for="p in pages"
        :key="p"
        :class="{ on: page === p }"
        :aria-current="page === p ? 'page' : undefined"
        @click="page = p"
      >
        {{ words.job[p].page }}
        <span v-if="p === 'set' && ticket.set.contradictions.length" class="odd">{{
          words.job.set.odd(ticket.set.contradictions.length)
        }}</span>
      </button>
    </nav>
    <SetPage v-if="page === 'set'" :key="ticket.version" :ticket="ticket" />
    <WorthPage v-else-if="page === 'worth'" :ticket="ticket" />
    <IntakePage v-else :key="`intake ${ticket.version}`" :ticket="ticket" />
  </div>
</template>

<style scoped>
.pages {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  min-width: 0;
}
nav {
  display: flex;
  border-bottom: 1px solid var(--edge);
}
nav button {
  min-height: 44px;
  padding: var(--s4) var(--s16);
  color: var(--muted);
  font: 600 var(--t-lead) var(--title);
  border-right: 1px solid var(--edge);
}
nav button:focus-visible {
  outline-offset: -3px;
}
nav .on {
  color: var(--lamp-ink);
  background: var(--lamp);
}
.odd {
  margin-left: var(--s8);
  font: var(--t-small) var(--text);
  color: var(--replace);
}
</style>
