<script setup lang="ts">
import type { Choice } from '../../api/client'
import { words } from '../../words/en'

/** What a choice has of what its place asks for: the mark is what is needed, the bar is what it has. */
defineProps<{ margins: Choice['margins'] }>()
/** The mark stands at two fifths; what has two and a half times as much fills the bar. */
const NEEDED = 40
function width(ratio: number) {
  return Math.min(ratio * NEEDED, 100)
}
</script>

<template>
  <dl class="margins">
    <template v-for="(m, i) in margins" :key="i">
      <dt>{{ m.of }}</dt>
      <dd>
        <span class="bar" aria-hidden="true">
          <i :style="{ width: `${width(m.ratio)}%` }" :class="{ close: m.ratio < 1.1 }"></i>
          <b :style="{ left: `${NEEDED}%` }"></b>
        </span>
        <span class="num has">{{ m.has }}</span>
        <span class="num needs">{{ words.fit.needs }} {{ m.needs }}</span>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
.margins {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--s2) var(--s10);
  align-items: center;
}
dt {
  color: var(--muted);
  font-size: var(--t-small);
}
dd {
  display: grid;
  grid-template-columns: minmax(60px, 1fr) max-content max-content;
  gap: var(--s10);
  align-items: center;
}
.bar {
  position: relative;
  height: 10px;
  background: var(--well);
  border: 1px solid var(--edge);
  border-radius: 5px;
  overflow: hidden;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--keep);
}
.bar i.close {
  background: var(--watch);
}
.bar b {
  position: absolute;
  top: -1px;
  bottom: -1px;
  width: 2px;
  background: var(--light);
}
.has {
  font-weight: 600;
}
.needs {
  color: var(--muted);
  font-size: var(--t-fine);
}
</style>
