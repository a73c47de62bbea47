<script setup lang="ts">
import type { PinOnBoard } from '../../api/client'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { words } from '../../words/en'

/** Parts at a pin, each with what is said of it; pressed, it opens. */
defineProps<{ parts: PinOnBoard['parts']; inHand?: string }>()
const emit = defineEmits<{ open: [part: PinOnBoard['parts'][number]] }>()
const says = (p: PinOnBoard['parts'][number]) =>
  p.says ? words.verdict[p.says] : words.status[p.status as keyof typeof words.status]
</script>

<template>
  <span class="parts">
    <button
      v-for="p in parts"
      :key="p.id"
      type="button"
      :class="{ hand: p.id === inHand }"
      :title="[p.position ?? p.kind, p.marked?.text, says(p)].filter(Boolean).join(' · ')"
      @click.stop="emit('open', p)"
    >
      <VerdictMark v-if="p.says" :verdict="p.says" :size="16" :class="p.says.replace(' ', '-')" />
      <b class="num">{{ p.name }}</b> <span class="num">{{ p.marked?.text }}</span>
      <span class="sr">{{ says(p) }}</span>
    </button>
  </span>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s4);
}
button {
  display: inline-flex;
  gap: var(--s4);
  align-items: center;
  min-height: 36px;
  padding: 0 var(--s8);
  border: 1px solid var(--edge);
  border-radius: 7px;
  font-size: var(--t-small);
  white-space: nowrap;
}
button:hover,
.hand {
  border-color: var(--lamp);
}
.keep {
  color: var(--keep);
}
.watch {
  color: var(--watch);
}
.replace {
  color: var(--replace);
}
.measure-again {
  color: var(--again);
}
</style>
