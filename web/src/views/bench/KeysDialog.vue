<script setup lang="ts">
import { words } from '../../words/en'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <ElDialog :model-value="open" :title="words.keys.title" width="520" align-center @close="emit('close')">
    <dl>
      <template v-for="[key, what] in words.keys.list" :key="key">
        <dt class="num">{{ key }}</dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
  </ElDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 9px 14px;
  font-size: 15px;
}
dt {
  color: var(--lamp);
  font-weight: 600;
  text-align: right;
}
</style>
