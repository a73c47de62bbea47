<script setup lang="ts">
import type { Lot } from '../../api/client'
import { words } from '../../words/en'

/** The lots that were found, a line each. */
defineProps<{ lots: Lot[] }>()
const emit = defineEmits<{ open: [lot: Lot]; count: [lot: Lot, by: 1 | -1] }>()
</script>

<template>
  <table>
    <tbody>
      <tr v-for="l in lots" :key="l.id" :class="{ low: l.low, none: l.count === 0 }">
        <td class="value num">{{ l.value_text }}</td>
        <td class="what">
          <button class="open" :aria-label="l.description" @click="emit('open', l)">
            {{ l.rest_text }}
          </button>
          <span v-if="l.condition !== 'new'" :class="{ watch: l.needs_test }">{{ l.condition }}</span>
        </td>
        <td class="place">{{ l.place }}</td>
        <td class="price num">{{ l.price }}</td>
        <td class="count">
          <button
            :aria-label="`${l.description}: ${words.drawers.take}`"
            :disabled="l.count === 0"
            @click="emit('count', l, -1)"
          >
            −
          </button>
          <b class="num">{{ l.count }}</b>
          <button :aria-label="`${l.description}: ${words.drawers.put}`" @click="emit('count', l, 1)">
            +
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
tr {
  border-top: 1px solid var(--edge);
}
td {
  padding: var(--s2) var(--s10);
  vertical-align: middle;
}
.value {
  font-size: var(--t-value);
  font-weight: 500;
  color: var(--numeral);
  text-align: right;
  width: 130px;
}
.what span {
  display: block;
  font-size: var(--t-small);
  color: var(--muted);
}
.what span.watch {
  color: var(--watch);
}
.open {
  min-height: 40px;
  font-size: var(--t-body);
  width: 100%;
}
.open:hover {
  text-decoration: underline;
}
.place {
  color: var(--light);
}
.price {
  text-align: right;
  color: var(--muted);
}
.count {
  width: 150px;
  white-space: nowrap;
  text-align: right;
}
.count button {
  width: 40px;
  height: 40px;
  text-align: center;
  border: 1px solid var(--edge);
  border-radius: 8px;
  font-size: var(--t-large);
}
.count button:disabled {
  opacity: 0.35;
  cursor: default;
}
.count b {
  display: inline-block;
  min-width: 44px;
  text-align: center;
  font-size: var(--t-large);
}
.low .count b {
  color: var(--watch);
}
.none .count b {
  color: var(--replace);
}
@media (max-width: 900px) {
  .price {
    display: none;
  }
  .value {
    width: 96px;
    font-size: var(--t-large);
  }
}
</style>
