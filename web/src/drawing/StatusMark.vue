<script setup lang="ts">
import type { ChartStatus } from '../api/client'

/** How a reading stands: a tick, a wave, arrows, an empty ring, a cross. Never by colour alone. */
defineProps<{ status: ChartStatus; label: string }>()
</script>

<template>
  <svg
    width="16"
    height="16"
    viewBox="0 0 16 16"
    role="img"
    :aria-label="label"
    :class="status.replaceAll(' ', '-')"
  >
    <title>{{ label }}</title>
    <path v-if="status === 'right'" d="M2.500 8.500l3.500 3.500 7.500-8" />
    <path v-else-if="status === 'strays'" d="M1 9c2.500-5 4.500-5 7 0s4.500 4 7 0" />
    <path v-else-if="status === 'low'" d="M8 2v12M3 9l5 5 5-5" />
    <path v-else-if="status === 'high'" d="M8 14V2M3 7l5-5 5 5" />
    <circle v-else-if="status === 'dead'" cx="8" cy="8" r="5.500" />
    <path v-else-if="status === 'wrong'" d="M3 3l10 10M13 3L3 13" />
    <path v-else d="M4 8h8" />
  </svg>
</template>

<style scoped>
svg {
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-width: 2.4;
  stroke-linecap: round;
  stroke-linejoin: round;
  vertical-align: -2px;
}
.right {
  color: var(--keep);
}
.strays {
  color: var(--watch);
}
.low,
.high,
.dead,
.wrong {
  color: var(--replace);
}
.no-sheet {
  color: var(--muted);
}
</style>
