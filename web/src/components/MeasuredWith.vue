<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { words } from '../words/en'

/** With what a reading was taken that the instrument in front cannot have shown: one of these, or in own words. */
defineProps<{ choices: string[] }>()
const emit = defineEmits<{ choose: [measuredWith: string] }>()
const own = ref('')
const row = ref<HTMLElement>()
// The answer is one key away: Enter takes the first.
onMounted(() => row.value?.querySelector('button')?.focus())
</script>

<template>
  <div ref="row" class="with" role="group" :aria-label="words.measure.with">
    <button v-for="c in choices" :key="c" type="button" @click="emit('choose', c)">{{ c }}</button>
    <input
      v-model="own"
      :aria-label="words.measure.withOwn"
      :placeholder="words.measure.withOwn"
      maxlength="60"
      autocomplete="off"
      @keydown.enter.prevent.stop="own.trim() && emit('choose', own.trim())"
    />
  </div>
</template>

<style scoped>
.with {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s6);
  margin: var(--s4) 0;
}
button {
  min-height: 40px;
  padding: 0 var(--s12);
  border: 1px solid var(--watch);
  border-radius: 8px;
  color: var(--watch);
  font-size: var(--t-note);
}
input {
  flex: 1;
  min-width: 160px;
  min-height: 40px;
  padding: 0 var(--s10);
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 8px;
  font: 400 var(--t-note) var(--text);
}
</style>
