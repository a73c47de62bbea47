<script setup lang="ts">
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'

const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <PaperSheet :title="words.keys.title" @close="emit('close')">
    <dl>
      <template v-for="[key, what] in words.keys.list" :key="key">
        <dt class="num">{{ key }}</dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
  </PaperSheet>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: var(--s8) var(--s14);
  font-size: var(--t-lead);
}
dt {
  color: var(--lamp);
  font-weight: 600;
  text-align: right;
}
</style>
