<script setup lang="ts">
import { computed } from 'vue'
import type { Judgement, Verdict } from '../../api/client'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { words } from '../../words/en'

/** What each school would say, side by side; why, where they differ. */
const props = defineProps<{ judgement: Judgement; own?: string }>()
const tone = (v: Verdict) => (v === 'measure again' ? 'again' : v)
const differ = computed(() => new Set(props.judgement.schools.map((s) => s.verdict)).size > 1)
</script>

<template>
  <div class="schools" :class="{ differ }">
    <span
      v-for="s in judgement.schools"
      :key="s.school"
      :class="{ own: s.school === own }"
      :title="s.because || undefined"
    >
      {{ s.school }} {{ s.limit }}
      <b :class="tone(s.verdict)"
        ><VerdictMark :verdict="s.verdict" :size="14" />{{ words.verdict[s.verdict] }}</b
      >
    </span>
  </div>
  <p v-if="judgement.schools_differ" class="note">{{ judgement.schools_differ }}</p>
  <p class="note">{{ words.judge.restsOn }} {{ judgement.rests_on }}</p>
</template>

<style scoped>
.schools {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--s12);
  font-size: var(--t-small);
  color: var(--muted);
  padding: var(--s8) 0 var(--s4);
  border-top: 1px solid var(--edge);
}
.schools > span {
  display: grid;
  align-content: start;
}
.schools b {
  font-weight: 600;
  display: inline-flex;
  gap: var(--s4);
  align-items: center;
}
.schools .own {
  color: var(--light);
}
</style>
