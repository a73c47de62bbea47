<script setup lang="ts">
import { ref } from 'vue'
import type { ProofOutcome } from '../api/client'
import { words } from '../words/en'

/** How the set is for what was done: the one that the sentence says is lit, and Enter takes it. */
defineProps<{ heard: ProofOutcome | null; busy: boolean; quiet?: boolean }>()
const emit = defineEmits<{ choose: [outcome: ProofOutcome] }>()
const OUTCOMES: ProofOutcome[] = ['better', 'as before', 'worse']
const row = ref<HTMLElement>()
/** Leads to the one in the middle, which promises nothing. */
function ask() {
  row.value?.querySelectorAll('button')[1]?.focus()
}
defineExpose({ ask })
</script>

<template>
  <div ref="row" class="outcomes" role="group" :aria-label="words.prove.which">
    <ElButton
      v-for="o in OUTCOMES"
      :key="o"
      :type="heard === o && !quiet ? 'primary' : 'default'"
      :disabled="busy"
      @click="emit('choose', o)"
    >
      {{ words.prove.outcome[o] }} <kbd v-if="heard === o && !quiet">Enter</kbd>
    </ElButton>
  </div>
</template>

<style scoped>
.outcomes {
  display: flex;
  gap: var(--s8);
}
.outcomes :deep(.el-button + .el-button) {
  margin-left: 0;
}
</style>
