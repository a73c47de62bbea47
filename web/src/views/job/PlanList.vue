<script setup lang="ts">
import { api, told } from '../../api/client'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useStage } from './useStage'

/** What is left, put together as it can be done in one sitting. */
const bench = useBench()
const w = words.job.plan
const { data, problem } = useStage((id) =>
  told(api.GET('/api/tickets/{id}/plan', { params: { path: { id } } })),
)
const isPart = (name: string) => bench.ticket.value?.parts.some((p) => p.name === name) === true
</script>

<template>
  <section>
    <h3>{{ w.title }}</h3>
    <p v-if="problem && !data" class="problem" role="alert">{{ problem.detail }}</p>
    <p v-else-if="data && !data.rounds.length" class="keep">{{ w.none }}</p>
    <ol v-else-if="data" class="rows grid">
      <li v-for="s in data.rounds" :key="s.kind + s.valve">
        <b
          >{{ said(s.kind) }}<template v-if="s.valve">: {{ s.valve }}</template></b
        >
        <span class="names">
          <template v-for="n in s.names" :key="n">
            <button v-if="isPart(n)" class="link" @click="bench.select(n)">{{ n }}</button>
            <span v-else>{{ n }}</span>
          </template>
        </span>
        <span class="note num">{{ s.expected?.text ?? '' }}</span>
      </li>
    </ol>
    <p v-if="data?.rounds.length" class="note">
      <template v-if="data.expected"
        >{{ w.all }} <b class="num">{{ data.expected.text }}</b>, {{ w.rests }} {{ data.rests_on }}</template
      ><template v-else>{{ w.noPast }}</template>
    </p>
  </section>
</template>

<style scoped>
h3 {
  margin-top: 0;
}
ol {
  --row: 150px 1fr auto;
}
ol > li {
  padding: var(--s2) 0;
}
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--s10);
}
.link {
  color: var(--light);
}
</style>
