<script setup lang="ts">
import { words } from '../words/en'
import type { Imported } from '../api/client'

/** What became of a file that was read in: how many rows went in, and which did not, with the reason. */
defineProps<{ imported: Imported }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <div class="imported" role="status">
    <p>
      <b>{{ words.drawers.imported(imported.added, imported.changed) }}</b>
      <span v-if="imported.refused_in_all" class="watch">
        · {{ words.drawers.refused(imported.refused_in_all) }}</span
      >
      <button class="link" @click="emit('close')">{{ words.drawers.close }}</button>
    </p>
    <ul>
      <li v-for="r in imported.refused" :key="r.line">
        <span class="num">{{ words.drawers.line }} {{ r.line }}</span>
        {{ ' ' }}<template v-if="r.column && !r.why.startsWith(r.column)">{{ r.column }}: </template
        >{{ r.why }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.imported {
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  padding: var(--s6) var(--s12);
  max-height: 200px;
  overflow-y: auto;
  margin-bottom: var(--s8);
}
li {
  font-size: var(--t-small);
  color: var(--muted);
  padding: var(--s2) 0;
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 32px;
  margin-left: var(--s12);
}
</style>
