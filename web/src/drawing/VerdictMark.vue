<script setup lang="ts">
import type { Verdict } from '../api/client'

defineProps<{ verdict: Verdict; size?: number }>()
</script>

<template>
  <svg :width="size ?? 20" :height="size ?? 20" viewBox="0 0 30 30" aria-hidden="true" class="mark">
    <template v-if="verdict === 'keep'">
      <circle cx="15" cy="15" r="11.500" class="line" />
      <path d="M9.500 15.500l4 4 7.500-8.500" class="line" />
    </template>
    <template v-else-if="verdict === 'watch'">
      <path d="M2 15c4-7.500 9-10 13-10s9 2.500 13 10c-4 7.500-9 10-13 10s-9-2.500-13-10z" class="line" />
      <circle cx="15" cy="15" r="4.500" class="solid" />
    </template>
    <template v-else-if="verdict === 'replace'">
      <path d="M15 1.500L28.500 15 15 28.500 1.500 15z" class="solid" />
      <path d="M10.500 10.500l9 9M19.500 10.500l-9 9" class="cut" />
    </template>
    <template v-else>
      <path d="M25 9.500A11.500 11.500 0 1 0 26.500 15" class="line" />
      <path d="M26.500 3.500v7h-7" class="line" />
    </template>
  </svg>
</template>

<style scoped src="./mark.css"></style>
