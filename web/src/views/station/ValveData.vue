<script setup lang="ts">
import type { Part } from '../../api/client'
import { said } from '../../words/dialect'
import { words } from '../../words/en'

/** What the tables have of a valve's type: folded beside the meter, open beside the marking. */
defineProps<{ data: NonNullable<Part['valve_data']>; open?: boolean }>()
</script>

<template>
  <details class="data" :open="open">
    <summary>
      {{ data.type_number
      }}<template v-if="data.also.length">, {{ words.valve.also }} {{ data.also.join(', ') }}</template>
    </summary>
    <dl v-if="data.data.length">
      <template v-for="l in data.data" :key="l.label">
        <dt>{{ said(l.label) }}</dt>
        <dd>{{ said(l.text) }}</dd>
      </template>
    </dl>
    <p v-else class="note">{{ words.valve.noData }}</p>
    <p v-if="data.source" class="note">{{ data.source }}</p>
  </details>
</template>

<style scoped>
.data {
  margin: var(--s8) 0;
  font-size: var(--t-small);
}
summary {
  min-height: 32px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--light);
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--s4) var(--s12);
}
dt {
  color: var(--muted);
}
</style>
