<script setup lang="ts">
import { computed } from 'vue'
import { words } from '../../words/en'
import { STAGES, useBench } from './useBench'

/** The job of the open ticket, from left to right in the order of the work. */
const bench = useBench()
const w = words.job
/** The stage that one is at; a tool stands beside the job. */
const at = computed(() => (!bench.tool.value || bench.tool.value === 'job' ? bench.stage.value : null))
</script>

<template>
  <nav v-if="bench.ticket.value" class="line" :aria-label="w.line">
    <ol>
      <li v-for="s in STAGES" :key="s">
        <button
          :class="{ on: at === s }"
          :aria-current="at === s ? 'step' : undefined"
          @click="bench.openStage(s)"
        >
          {{ w.stages[s] }}
        </button>
      </li>
    </ol>
    <kbd>J</kbd>
  </nav>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: var(--s12);
  padding: 0 var(--s20);
  color: var(--on-wood);
  overflow-x: auto;
  scrollbar-width: none;
}
ol {
  display: flex;
}
li {
  display: flex;
  align-items: center;
}
li + li::before {
  content: '';
  width: 14px;
  height: 2px;
  background: var(--on-wood);
  opacity: 0.4;
}
button {
  min-height: 38px;
  padding: var(--s4) var(--s12);
  white-space: nowrap;
  font-size: var(--t-note);
  border-radius: 6px;
}
button:hover {
  background: #fff1;
}
.on {
  color: #fff3d6;
  font-weight: 650;
  box-shadow: inset 0 -3px var(--lamp);
  border-radius: 6px 6px 0 0;
}
button:focus-visible {
  outline-offset: -3px;
}
@media print {
  .line {
    display: none;
  }
}
</style>
