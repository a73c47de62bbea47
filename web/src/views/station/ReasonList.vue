<script setup lang="ts">
import { ref } from 'vue'
import type { Judgement } from '../../api/client'
import { words } from '../../words/en'
import RuleSheet from './RuleSheet.vue'

/** Why: one line each with its sum, the source a click away; and which number would change the verdict. */
defineProps<{ judgement: Judgement }>()
const opened = ref<string | null>(null)
const rule = ref<{ number: string; here: string } | null>(null)
</script>

<template>
  <ul class="rows grid reasons">
    <li v-for="r in judgement.reasons" :key="r.text">
      <button
        class="r num"
        :aria-label="words.rules.open(r.rule)"
        @click="rule = { number: r.rule, here: r.text }"
      >
        {{ r.rule }}</button><span>{{ r.text }}</span
      ><button
        class="s"
        :aria-expanded="opened === r.text"
        @click="opened = opened === r.text ? null : r.text"
      >
        {{ r.source_short }}
      </button>
      <p v-if="opened === r.text" class="source">{{ r.source }}</p>
    </li>
  </ul>
  <p v-if="judgement.from_memory" class="memory">{{ words.rules.memory }}</p>
  <RuleSheet v-if="rule" :number="rule.number" :here="rule.here" @close="rule = null" />
  <div v-if="judgement.would_change.length" class="flips" :aria-label="words.judge.wouldChange">
    <span class="head">{{ words.judge.wouldChange }}</span>
    <ul>
      <li v-for="f in judgement.would_change" :key="f.text">{{ f.text }}</li>
    </ul>
  </div>
</template>

<style scoped>
.reasons {
  --row: 34px 1fr auto;
  font-size: var(--t-note);
}
.reasons > li:first-child {
  font-size: var(--t-body);
  color: var(--light);
  font-weight: 500;
}
.r {
  color: var(--muted);
  font-size: var(--t-fine);
  align-self: start;
  text-align: left;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  padding: 1px 0;
}
.memory {
  color: var(--watch);
  font-size: var(--t-small);
  padding: var(--s2) 0 var(--s6) 42px;
}
.s {
  color: var(--muted);
  font-size: var(--t-fine);
  font-weight: 400;
  align-self: start;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  padding: 1px var(--s4);
}
.source {
  grid-column: 2 / -1;
  color: var(--muted);
  font-size: var(--t-small);
}
.flips {
  display: grid;
  grid-template-columns: 118px 1fr;
  gap: var(--s8);
  padding: var(--s6) 0;
  border-top: 1px solid var(--edge);
  font-size: var(--t-small);
}
.head {
  color: var(--muted);
}
</style>
