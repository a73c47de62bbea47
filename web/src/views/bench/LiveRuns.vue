<script setup lang="ts">
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from './useBench'

/** A part that has volts on it stands on every screen until it is proven empty. */
const bench = useBench()
const { live } = bench
</script>

<template>
  <p v-if="live.length" class="live" role="status" :aria-label="words.reform.liveLabel">
    <CautionSign />
    <b>{{ words.reform.live }}</b>
    <span v-for="r in live" :key="r.id">
      <button class="link" @click="bench.openTool('reform')">{{ r.part }}</button> {{ r.set }}
    </span>
  </p>
</template>

<style scoped>
.live {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s4) var(--s12);
  align-items: center;
  padding: var(--s2) var(--s20);
  background: var(--caution);
  color: var(--caution-ink);
  border-bottom: 1px solid var(--caution-edge);
  font-size: var(--t-note);
}
.link {
  text-decoration: underline;
  min-height: 32px;
}
@media print {
  .live {
    display: none;
  }
}
</style>
