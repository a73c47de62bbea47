<script setup lang="ts">
import { computed } from 'vue'
import { api, told, type Schemas } from '../../api/client'
import ChoiceChips from '../../components/ChoiceChips.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** How the workshop speaks: chosen once, and every sentence follows. */
type Dialect = Schemas['Dialect']
const bench = useBench()
const { busy, problem, send } = useSending(bench)
const dialect = computed(() => bench.workshop.value?.dialect ?? null)
const w = words.dialect

const isChosen = (whole: Dialect) => JSON.stringify(whole) === JSON.stringify(dialect.value?.chosen)
async function choose(body: Dialect) {
  const done = await send(body, () => told(api.PUT('/api/workshop/dialect', { body })))
  if (done) await bench.refreshWorkshop()
}
function pick(choice: Schemas['WordChoice'], word: string) {
  if (dialect.value) void choose({ ...dialect.value.chosen, [choice]: word })
}
</script>

<template>
  <section class="desk speech" :aria-label="words.workshop.words">
    <p v-if="!dialect" class="loading" role="status">{{ words.workshop.loading }}</p>
    <template v-else>
      <p class="note">{{ w.note }}</p>
      <div class="usual">
        <ElButton
          v-for="u in dialect.usual"
          :key="u.name"
          :type="isChosen(u.words) ? 'primary' : undefined"
          :aria-pressed="isChosen(u.words)"
          :loading="busy && !isChosen(u.words)"
          @click="choose(u.words)"
          >{{ w.as(u.name) }}</ElButton
        >
      </div>
      <ChoiceChips
        v-for="p in dialect.pairs"
        :key="p.choice"
        class="pair"
        columns="1fr 1fr"
        :model-value="dialect.chosen[p.choice] as string"
        :label="p.words.join(w.or)"
        :options="p.words.map((word) => ({ value: word, label: word }))"
        @update:model-value="(word) => word && pick(p.choice, word)"
      />
      <p v-if="problem" class="problem" role="alert">{{ problem.detail }}</p>
      <p class="heard" aria-live="polite">{{ w.example }}</p>
    </template>
  </section>
</template>

<style scoped>
.speech {
  max-width: 620px;
}
.usual {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s10);
  margin: var(--s14) 0;
}
.pair {
  margin-bottom: var(--s8);
}
.heard {
  margin-top: var(--s16);
  padding: var(--s12) var(--s16);
  border-left: 3px solid var(--lamp);
  background: var(--panel);
  font: 500 var(--t-head)/1.45 var(--title);
}
</style>
