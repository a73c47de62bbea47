<script setup lang="ts">
import type { Colour, Scheme, SchemeInfo } from '../../api/client'
import MarkedPart from '../../drawing/MarkedPart.vue'
import { words } from '../../words/en'

/** What the part in the hand looks like: drawings to pick from, or not sure. */
defineProps<{ offered: SchemeInfo[]; chosen: Scheme | null; any?: boolean; compact?: boolean }>()
const emit = defineEmits<{ take: [scheme: Scheme | null] }>()
</script>

<template>
  <div class="shapes" :class="{ compact }" role="group" :aria-label="words.reader.shapes">
    <button
      v-if="any"
      :class="{ on: chosen === null }"
      :aria-pressed="chosen === null"
      @click="emit('take', null)"
    >
      <span class="unsure" aria-hidden="true">?</span>
      <span>{{ words.reader.unsure }}</span>
    </button>
    <button
      v-for="s in offered"
      :key="s.scheme"
      :class="{ on: chosen === s.scheme }"
      :aria-pressed="chosen === s.scheme"
      @click="emit('take', s.scheme)"
    >
      <MarkedPart
        aria-hidden="true"
        :shape="s.scheme"
        :colours="words.reader.sample[s.scheme] as unknown as Colour[]"
      />
      <span>{{ words.reader.shape[s.scheme] }}</span>
    </button>
  </div>
</template>

<style scoped>
.shapes {
  display: flex;
  gap: var(--s4);
  overflow-x: auto;
  scrollbar-width: thin;
  padding-bottom: var(--s2);
}
.shapes button {
  flex: 1 0 52px;
  min-height: 56px;
  padding: var(--s6) var(--s2) var(--s4);
  border: 1px solid var(--edge);
  border-radius: 8px;
  color: var(--muted);
  font-size: var(--t-fine);
  line-height: 1.15;
  text-align: center;
  display: grid;
  justify-items: center;
  align-content: space-between;
  gap: var(--s2);
}
.shapes .part {
  width: 46px;
  height: 17px;
}
.shapes .on {
  border-color: var(--lamp);
  color: var(--light);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
.unsure {
  font: 600 var(--t-head)/1 var(--title);
}
.compact.shapes button {
  min-height: 46px;
  padding: var(--s4) var(--s2) var(--s2);
}
</style>
