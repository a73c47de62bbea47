<script setup lang="ts">
import CautionSign from '../drawing/CautionSign.vue'

/** Cautions where the hand goes, each on a strip of its own. */
defineProps<{ cautions: string[] }>()
</script>

<template>
  <ul class="cautions">
    <li v-for="c in cautions" :key="c"><CautionSign /> {{ c }}</li>
  </ul>
</template>

<style scoped>
li {
  display: flex;
  gap: var(--s10);
  padding: var(--s6) var(--s12);
  margin-bottom: var(--s8);
  font-size: var(--t-lead);
  background: var(--caution);
  color: var(--caution-ink);
  border: 1px solid var(--caution-edge);
  border-radius: 8px;
}
</style>
