<script setup lang="ts">
import { ref } from 'vue'
import { words } from '../../words/en'
import { ORDERS, type useTrayOrder } from './useTrayOrder'

/** In which order the tray lies, which parts of it are seen, and finding one. */
const props = defineProps<{ tray: ReturnType<typeof useTrayOrder> }>()
const emit = defineEmits<{ first: [] }>()
const { order, filter, toMeasure } = props.tray
const finder = ref<HTMLInputElement>()
defineExpose({ focus: () => finder.value?.focus() })
</script>

<template>
  <div class="sort">
    <div class="orders" role="group" :aria-label="words.tray.order">
      <button
        v-for="o in ORDERS"
        :key="o"
        :class="{ on: order === o }"
        :aria-pressed="order === o"
        @click="order = o"
      >
        {{ words.tray.orders[o] }}
      </button>
    </div>
    <button class="only" :class="{ on: toMeasure }" :aria-pressed="toMeasure" @click="toMeasure = !toMeasure">
      {{ words.tray.toMeasure }} <kbd>M</kbd>
    </button>
    <input
      ref="finder"
      v-model="filter"
      class="find"
      :aria-label="words.tray.filter"
      :placeholder="`${words.tray.filter}: ${words.tray.filterExample}`"
      autocomplete="off"
      @keydown.enter.prevent="emit('first')"
    />
  </div>
</template>

<style scoped>
.sort {
  display: flex;
  gap: var(--s8);
  align-items: center;
  padding: 0 var(--s12) var(--s8) var(--s8);
  min-width: 0;
}
.orders {
  display: flex;
  border: 1px solid var(--edge);
  border-radius: 8px;
  overflow: hidden;
}
.orders button,
.only {
  min-height: 40px;
  padding: var(--s4) var(--s12);
  font-size: var(--t-small);
  color: var(--muted);
  white-space: nowrap;
}
.only {
  border: 1px solid var(--edge);
  border-radius: 8px;
}
.sort .on {
  background: var(--panel);
  color: var(--light);
  font-weight: 600;
}
.only.on {
  border-color: var(--again);
  color: var(--again);
}
.find {
  flex: 1;
  min-width: 60px;
  min-height: 40px;
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 8px;
  padding: var(--s4) var(--s12);
  font: 400 var(--t-note) var(--text);
}
.find::placeholder {
  color: var(--well-soft);
}
@media (max-width: 700px) {
  .sort {
    flex-wrap: wrap;
    padding: 0 0 var(--s8);
  }
  .orders button {
    padding: var(--s4) var(--s8);
  }
}
</style>
