<script setup lang="ts">
import { computed } from 'vue'
import type { Amount } from '../api/client'

/** A value whose decimal point lines up with those above and below it. */
const props = defineProps<{ amount?: Amount | null; bright?: boolean; instead?: string }>()
const whole = computed(() => props.amount?.number.split('.')[0] ?? '')
const fraction = computed(() => {
  const part = props.amount?.number.split('.')[1]
  return part === undefined ? '' : `.${part}`
})
</script>

<template>
  <span class="value num" :class="{ bright }">
    <template v-if="amount">
      <span class="whole">{{ whole }}</span>
      <span class="rest"
        >{{ fraction }}<i>&nbsp;{{ amount.unit }}</i></span
      >
    </template>
    <span v-else class="instead">{{ instead ?? '·' }}</span>
  </span>
</template>

<style scoped>
.value {
  display: grid;
  grid-template-columns: 1fr 6.1ch;
  align-items: baseline;
  font-size: var(--t-body);
  font-weight: 500;
  color: var(--muted);
}
.value.bright {
  color: var(--light);
  font-weight: 650;
}
.whole {
  text-align: right;
}
.rest i {
  font-style: normal;
  font-size: var(--t-small);
  font-weight: 400;
  color: var(--muted);
  margin-left: -3px;
}
.instead {
  grid-column: 1 / 3;
  text-align: right;
  padding-right: 3.4ch;
}
</style>
