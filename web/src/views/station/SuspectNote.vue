<script setup lang="ts">
import type { Part } from '../../api/client'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** What may have died with a part, and would kill what goes in: shown where it is fitted and where it is looked at. */
defineProps<{ part: Part }>()
const bench = useBench()
const w = words.transistor.station
</script>

<template>
  <p v-if="part.suspects_open.length" class="suspects">
    <CautionSign />
    <span>
      {{ w.suspects(part.suspects_open.join(', ')) }}
      <button class="link" @click="bench.select(part.suspects_open[0] ?? '')">
        {{ part.suspects_open[0] }}
      </button>
    </span>
  </p>
  <p v-else-if="part.suspect_of" class="suspects">
    <CautionSign />
    <span>
      {{ w.suspectOf(part.suspect_of.name) }}<template v-if="part.note">. {{ part.note }}</template>
    </span>
  </p>
</template>

<style scoped>
.suspects {
  display: flex;
  gap: var(--s10);
  align-items: center;
  padding: var(--s6) var(--s16);
  background: var(--caution);
  color: var(--caution-ink);
  font-size: var(--t-note);
  border-bottom: 1px solid var(--caution-edge);
}
.link {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  font-weight: 600;
  min-height: 32px;
}
</style>
