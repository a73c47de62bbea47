<script setup lang="ts">
import type { Outline } from '../api/client'
import { words } from '../words/en'
import OutlineDrawing from './OutlineDrawing.vue'

/** The old one and the new one from below, side by side, with the leads that go into each other. */
defineProps<{
  old: Outline | null
  next: Outline | null
  oldName: string
  nextName: string
  crossed: string[]
}>()
const w = words.transistor.equivalents
</script>

<template>
  <figure class="map">
    <div>
      <span
        >{{ w.old }} <b>{{ oldName }}</b></span
      >
      <OutlineDrawing v-if="old" :outline="old" :crossed="crossed" />
      <p v-else class="none">?</p>
      <span class="note">{{ old?.package }}</span>
    </div>
    <div class="arrow" aria-hidden="true">→</div>
    <div>
      <span
        >{{ w.new }} <b>{{ nextName }}</b></span
      >
      <OutlineDrawing v-if="next" :outline="next" :crossed="crossed" />
      <p v-else class="none">?</p>
      <span class="note">{{ next?.package }}</span>
    </div>
    <figcaption class="note">{{ w.below }}</figcaption>
  </figure>
</template>

<style scoped>
.map {
  margin: 4px 0 0;
  display: grid;
  grid-template-columns: 1fr 26px 1fr;
  align-items: center;
  text-align: center;
  max-width: 400px;
}
.arrow {
  font-size: 24px;
  color: var(--numeral);
}
.none {
  font: 600 40px var(--title);
  color: var(--muted);
  padding: 34px 0;
}
figcaption {
  grid-column: 1 / -1;
}
</style>
