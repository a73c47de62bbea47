<script setup lang="ts">
import { computed, ref } from 'vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'

/** All keys, found by what they do or by the key itself. */
const emit = defineEmits<{ close: [] }>()
const typed = ref('')
const shown = computed(() => {
  const wanted = typed.value.trim().toLowerCase()
  return words.keys.list.filter(
    ([key, what]) => key.toLowerCase() === wanted || what.toLowerCase().includes(wanted),
  )
})
</script>

<template>
  <PaperSheet :title="words.keys.title" @close="emit('close')">
    <input
      v-model="typed"
      class="find big-entry"
      type="search"
      autofocus
      maxlength="40"
      :aria-label="words.keys.find"
      :placeholder="words.keys.find"
    />
    <div class="list" tabindex="0" role="region" :aria-label="words.keys.title">
      <dl>
        <template v-for="[key, what] in shown" :key="key">
          <dt class="num">{{ key }}</dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <p v-if="shown.length === 0" role="status">{{ words.keys.none }}</p>
    </div>
  </PaperSheet>
</template>

<style scoped>
.find {
  width: 100%;
  margin-bottom: var(--s12);
}
.list {
  max-height: min(64vh, 560px);
  overflow-y: auto;
}
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: var(--s6) var(--s14);
  font-size: var(--t-body);
}
dt {
  color: var(--lamp);
  font-weight: 600;
  text-align: right;
}
</style>
