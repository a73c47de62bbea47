<template>
  <svg width="20" height="18" viewBox="0 0 20 18" aria-hidden="true" class="sign">
    <path d="M10 1l9 16H1z" />
    <path d="M10 6.500v5M10 13.600v1" />
  </svg>
</template>

<style scoped>
.sign {
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.8;
  stroke-linejoin: round;
  stroke-linecap: round;
}
</style>
