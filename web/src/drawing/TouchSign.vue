<script setup lang="ts">
/** Whether a hand may go near: a word, a shape and a colour, each enough by itself. */
defineProps<{ safe: boolean; word: string; why: string }>()
</script>

<template>
  <div class="touch" :class="{ safe }" role="status" aria-live="assertive">
    <svg width="52" height="52" viewBox="0 0 52 52" aria-hidden="true">
      <template v-if="safe">
        <rect x="4" y="4" width="44" height="44" rx="8" class="line" />
        <path d="M14 27l8 8 16-18" class="line" />
      </template>
      <template v-else>
        <path d="M17 3h18l14 14v18L35 49H17L3 35V17z" class="line" />
        <path d="M29 9L16 29h8l-3 14 15-21h-9z" class="bolt" />
      </template>
    </svg>
    <p>
      <b>{{ word }}</b>
      <span>{{ why }}</span>
    </p>
  </div>
</template>

<style scoped>
.touch {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 8px 20px 8px 14px;
  border: 2px solid var(--replace);
  border-radius: 12px;
  background: var(--replace-low);
  color: var(--replace);
  min-width: 250px;
}
.touch.safe {
  border-color: var(--keep);
  background: var(--keep-low);
  color: var(--keep);
}
svg {
  flex: none;
}
.line {
  fill: none;
  stroke: currentColor;
  stroke-width: 4;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.bolt {
  fill: currentColor;
}
b {
  display: block;
  font: 700 25px/1.1 var(--text);
  color: var(--light);
  white-space: nowrap;
}
span {
  font-size: 14px;
  color: var(--light);
}
</style>
