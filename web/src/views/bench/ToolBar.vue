<script setup lang="ts">
import { isOpen, TOOLS } from './tools'
import { words } from '../../words/en'
import { useBench } from './useBench'

/** The tools, in the free half of the job's line. */
const bench = useBench()
</script>

<template>
  <nav class="tools" :aria-label="words.shelf.tools">
    <button
      v-for="t in TOOLS"
      :key="t.tool"
      class="tool"
      :class="{ on: isOpen(t.tool, bench.tool.value) }"
      :aria-pressed="isOpen(t.tool, bench.tool.value)"
      :title="`${t.label} (${t.key})`"
      @click="bench.openTool(isOpen(t.tool, bench.tool.value) ? null : t.tool)"
    >
      {{ t.label }} <kbd>{{ t.key }}</kbd>
    </button>
  </nav>
</template>

<style scoped>
.tools {
  margin-left: auto;
  display: flex;
  align-items: center;
  padding: 0 var(--s12);
  min-width: 0;
  overflow-x: auto;
  scrollbar-width: none;
  color: var(--on-wood);
}
button {
  flex: none;
  min-height: 38px;
  padding: var(--s4) var(--s10);
  border-radius: 6px;
  font-size: var(--t-note);
  white-space: nowrap;
}
.on {
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
}
button:not(.on):hover {
  background: #fff1;
}
button:focus-visible {
  outline-offset: -3px;
}
/* the stages and the tools need the room; the keys stand under ? */
@media (max-width: 1400px) {
  kbd {
    display: none;
  }
  button {
    padding: var(--s4) var(--s8);
  }
}
/* a phone: the tools move under the thumb, the page does not */
@media (max-width: 700px) {
  button {
    min-height: 44px;
  }
}
@media print {
  .tools {
    display: none;
  }
}
</style>
