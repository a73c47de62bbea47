<script setup lang="ts">
import type { PowerAdvice } from '../api/client'

/** What to do after a step: a stop, an eye, an arrow up, a status line. Never by colour alone. */
defineProps<{ call: PowerAdvice; size?: number }>()
</script>

<template>
  <svg :width="size ?? 20" :height="size ?? 20" viewBox="0 0 30 30" aria-hidden="true" class="mark">
    <template v-if="call === 'stop'">
      <path d="M10 2h10l8 8v10l-8 8H10l-8-8V10z" class="solid" />
      <path d="M9 15h12" class="cut" />
    </template>
    <template v-else-if="call === 'look first'">
      <path d="M2 15c4-7.500 9-10 13-10s9 2.500 13 10c-4 7.500-9 10-13 10s-9-2.500-13-10z" class="line" />
      <circle cx="15" cy="15" r="4.500" class="solid" />
    </template>
    <path v-else-if="call === 'go on'" d="M15 27V4M6 13l9-9 9 9" class="line" />
    <path v-else d="M4 4h22M15 28V11M8 18l7-7 7 7" class="line" />
  </svg>
</template>

<style scoped src="./mark.css"></style>
