<script setup lang="ts">
import { computed } from 'vue'
import { words } from '../../words/en'
import { useBench } from './useBench'

/** What was done last, where it was done, and taking it back. */
const props = defineProps<{ part: string | null }>()
const bench = useBench()
const last = computed(() => (bench.deed.value?.part_id === props.part ? bench.deed.value : null))
</script>

<template>
  <p v-if="last" class="last">
    <span :title="last.what">{{ last.what }}</span>
    <button type="button" @click="bench.undo">{{ words.undo.back }} <kbd>Z</kbd></button>
  </p>
</template>

<style scoped>
.last {
  display: flex;
  gap: var(--s10);
  align-items: center;
  justify-content: space-between;
  padding: 0 var(--s16);
  min-height: 36px;
  font-size: var(--t-small);
  color: var(--muted);
  border-bottom: 1px solid var(--edge);
}
span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  flex: none;
  min-height: 36px;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
</style>
