<script setup lang="ts">
import type { RuleText } from '../api/client'
import { words } from '../words/en'

/** What a rule says: its formula, the case in hand, its units, limits, numbers of judgement, source, tests. */
defineProps<{ rule: RuleText; here?: string }>()
const w = words.rules
</script>

<template>
  <article class="rule">
    <p>{{ rule.says }}</p>
    <p class="formula num">{{ rule.formula }}</p>
    <p v-if="here" class="here">
      <b>{{ w.here }}</b> {{ here }}
    </p>
    <dl>
      <dt>{{ w.units }}</dt>
      <dd>{{ rule.units }}</dd>
      <dt>{{ w.limits }}</dt>
      <dd>{{ rule.limits }}</dd>
      <dt>{{ w.source }}</dt>
      <dd>{{ rule.source }}</dd>
      <template v-if="rule.judgement.length">
        <dt>{{ w.judgement }}</dt>
        <dd>
          <span v-for="j in rule.judgement" :key="j.label" class="number" :title="j.source">
            {{ j.label }} <b class="num">{{ j.value }}</b>
          </span>
        </dd>
      </template>
      <dt>{{ w.heldBy }}</dt>
      <dd class="tests">{{ rule.held_by }}</dd>
    </dl>
  </article>
</template>

<style scoped>
.rule {
  font-size: var(--t-body);
  line-height: 1.5;
}
.formula {
  margin: var(--s10) 0;
  padding: var(--s10) var(--s14);
  background: var(--well);
  color: var(--well-ink);
  border-radius: 8px;
  font-size: var(--t-body);
  overflow-wrap: anywhere;
  white-space: normal;
}
.here {
  border-left: 3px solid var(--lamp);
  padding: var(--s2) 0 var(--s2) var(--s12);
  margin-bottom: var(--s10);
}
dl {
  display: grid;
  grid-template-columns: 108px minmax(0, 1fr);
  gap: var(--s6) var(--s12);
}
dt {
  color: var(--muted);
}
.number {
  display: block;
}
.tests {
  overflow-wrap: anywhere;
  color: var(--muted);
  font-size: var(--t-small);
}
</style>
