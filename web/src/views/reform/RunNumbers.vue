<script setup lang="ts">
import type { Run } from '../../api/client'
import { clockOf, soon } from '../../format/time'
import { words } from '../../words/en'

/** What is read from a metre away: volts across it, current through it, how long still. */
defineProps<{ run: Run }>()
</script>

<template>
  <div class="numbers">
    <p class="big">
      <span>{{ words.reform.across }}</span>
      <b class="num">{{ run.volts?.number ?? '–' }}</b><i class="num">V</i>
    </p>
    <p class="big">
      <span>{{ run.phase === 'feeding' ? words.reform.leaking : words.reform.flowing }}</span>
      <b class="num">{{ run.amperes?.number ?? '–' }}</b><i class="num">mA</i>
    </p>
    <p v-if="run.stage_s != null" class="side">
      <span>{{ words.reform.stage }}</span><b class="num">{{ clockOf(run.stage_s) }}</b>
    </p>
    <p v-else-if="run.empty_in_s != null" class="side">
      <span>{{ words.reform.emptyIn }}</span><b class="num">{{ clockOf(run.empty_in_s) }}</b>
    </p>
    <p v-if="run.forecast?.done_at" class="side right">
      <span>{{ words.reform.done }}, {{ run.forecast.give_or_take }}</span>
      <b class="num">{{ soon(run.forecast.done_at) }}</b>
    </p>
    <p v-else-if="run.phase === 'ready'" class="side right">
      <span>{{ words.reform.expected }}</span><b class="num">{{ run.state }}</b>
    </p>
  </div>
</template>

<style scoped>
.numbers {
  display: flex;
  gap: 40px;
  align-items: flex-end;
  flex-wrap: wrap;
}
.numbers span {
  display: block;
  color: var(--muted);
  font-size: var(--t-body);
}
.big b {
  font-size: var(--t-farthest);
  line-height: 1;
  font-weight: 500;
  color: var(--numeral);
  display: inline-block;
  min-width: 4.1ch;
  text-align: right;
}
.big i {
  font-style: normal;
  font-size: var(--t-value);
  color: var(--numeral);
  margin-left: var(--s8);
}
.side b {
  font-size: var(--t-far);
  line-height: 1.15;
  font-weight: 500;
}
.right {
  margin-left: auto;
  text-align: right;
}
@media (max-width: 1100px) {
  .numbers {
    gap: var(--s20);
  }
  .big b {
    font-size: var(--t-farther);
  }
}
</style>
