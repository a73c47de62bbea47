<script setup lang="ts">
import { outdated } from '../../api/client'
import { words } from '../../words/en'

/** On every screen once the server was brought up to date under this page: what both understand differently is not guessed. */
const reload = () => window.location.reload()
</script>

<template>
  <p v-if="outdated" class="old" role="alert">
    <b>{{ words.outdated.title }}</b>
    <span>{{ words.outdated.text }}</span>
    <button type="button" @click="reload">{{ words.outdated.reload }}</button>
  </p>
</template>

<style scoped>
.old {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s4) var(--s12);
  align-items: center;
  padding: var(--s4) var(--s20);
  background: var(--wood-low);
  color: var(--on-wood);
  border-bottom: 1px solid var(--caution-edge);
  font-size: var(--t-note);
}
.old button {
  min-height: 32px;
  padding: 0 var(--s12);
  border: 1px solid var(--lamp);
  border-radius: 8px;
  font-weight: 600;
}
@media print {
  .old {
    display: none;
  }
}
</style>
