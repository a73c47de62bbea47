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
  font-size: 14px;
  line-height: 1.5;
}
.formula {
  margin: 10px 0;
  padding: 10px 14px;
  background: var(--well);
  color: var(--well-ink);
  border-radius: 8px;
  font-size: 14.5px;
  overflow-wrap: anywhere;
  white-space: normal;
}
.here {
  border-left: 3px solid var(--lamp);
  padding: 2px 0 2px 12px;
  margin-bottom: 10px;
}
dl {
  display: grid;
  grid-template-columns: 108px minmax(0, 1fr);
  gap: 6px 12px;
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
  font-size: 12.5px;
}
</style>
