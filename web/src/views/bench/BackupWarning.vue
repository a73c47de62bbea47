<script setup lang="ts">
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from './useBench'

/** On every screen while nobody has written a backup for long. */
const bench = useBench()
</script>

<template>
  <p v-if="bench.workshop.value?.backup?.warning" class="overdue" role="status">
    <CautionSign />
    <b>{{ words.backup.overdue }}</b>
    <span>{{ bench.workshop.value.backup.warning }}</span>
  </p>
</template>

<style scoped>
.overdue b {
  white-space: nowrap;
}
.overdue {
  display: flex;
  gap: var(--s4) var(--s12);
  align-items: center;
  padding: var(--s4) var(--s20);
  background: var(--wood-low);
  color: var(--on-wood);
  border-bottom: 1px solid var(--caution-edge);
  font-size: var(--t-note);
}
@media print {
  .overdue {
    display: none;
  }
}
</style>
