<script setup lang="ts">
import OwlMark from '../../drawing/OwlMark.vue'
import { words } from '../../words/en'

/** An address that nobody serves: said plainly, with the way back. */
</script>

<template>
  <main class="nowhere">
    <OwlMark />
    <h1>{{ words.nowhere.title }}</h1>
    <p>{{ words.nowhere.text }}</p>
    <RouterLink to="/" autofocus>{{ words.nowhere.back }}</RouterLink>
  </main>
</template>

<style scoped>
.nowhere {
  height: 100%;
  display: grid;
  gap: var(--s14);
  align-content: center;
  justify-items: center;
  text-align: center;
  padding: var(--s20);
}
h1 {
  font: 600 var(--t-sign) var(--title);
  margin: 0;
}
a {
  color: var(--lamp-ink);
  background: var(--lamp);
  border-radius: 8px;
  padding: var(--s10) var(--s20);
  font-weight: 600;
  text-decoration: none;
}
</style>
