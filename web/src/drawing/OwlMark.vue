<script setup lang="ts">
defineProps<{ size?: number; asleep?: boolean }>()
</script>

<template>
  <svg :width="size ?? 34" :height="size ?? 34" viewBox="0 0 34 34" aria-hidden="true" class="owl">
    <rect x="2" y="5" width="30" height="24" rx="12" class="head" />
    <circle cx="11.500" cy="17" r="6" class="eye" />
    <circle cx="22.500" cy="17" r="6" class="eye" />
    <path v-if="!asleep" d="M11.500 17l3.400-3.400M22.500 17l3.400 1.800" class="needle" />
    <path v-else d="M7.500 17h8M18.500 17h8" class="needle" />
  </svg>
</template>

<style scoped>
.owl {
  flex: none;
  display: block;
}
.head {
  fill: none;
  stroke: #f2b04a;
  stroke-width: 2;
}
.eye {
  fill: #120d0a;
  stroke: #f1e8d4;
  stroke-width: 1.6;
}
.needle {
  stroke: #f2b04a;
  stroke-width: 2;
  stroke-linecap: round;
}
</style>
