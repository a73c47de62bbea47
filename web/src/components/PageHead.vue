<script setup lang="ts">
/** The head of a page or of a card: its name, or the field that finds what is on it; what can be done stands beside it. */
withDefaults(defineProps<{ title?: string; level?: 1 | 2 }>(), { title: undefined, level: 2 })
</script>

<template>
  <header class="page-head">
    <component :is="`h${level}`" v-if="title">{{ title }}</component>
    <slot />
  </header>
</template>

<style scoped>
.page-head {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s10) var(--s14);
  align-items: center;
}
h1,
h2 {
  font: 600 var(--t-large)/1.3 var(--title);
  margin: 0 auto 0 0;
}
:deep(.find) {
  flex: 1 1 300px;
}
</style>
