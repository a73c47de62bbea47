<script setup lang="ts">
import { ref } from 'vue'
import { api, told, type Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from './useSending'

/** Sheet, mark and meter disagree: a question that stays until it is answered. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const { wrong, send, busy, problem } = useSending(bench)
const note = ref('')
const open = ref(false)

type Answer = NonNullable<Part['disagreement']>['answers'][number]
async function answer(given: Answer) {
  const content = { answer: given, note: note.value, version: props.part.version }
  const done = await send(content, ({ key }) =>
    told(
      api.POST('/api/parts/{id}/explanations', {
        params: { path: { id: props.part.id } },
        body: { key, ...content },
      }),
    ),
  )
  if (done) note.value = ''
}
</script>

<template>
  <div v-if="part.disagreement" class="disagreement" role="group" :aria-label="words.disagreement.label">
    <p class="line">
      <span class="sign" aria-hidden="true">≠</span>
      <span :title="part.disagreement.source">{{ part.disagreement.question }}</span>
      <button v-if="!open" class="link" data-test="answer" @click="open = true">
        {{ words.disagreement.answer }}
      </button>
    </p>
    <template v-if="open">
      <div class="answers">
        <ElButton v-for="a in part.disagreement.answers" :key="a" :disabled="busy" @click="answer(a)">
          {{ a }}
        </ElButton>
      </div>
      <Field v-slot="{ id }" :label="words.disagreement.note" :wrong="wrong('note') ?? problem?.detail">
        <ElInput :id="id" v-model="note" autocomplete="off" />
      </Field>
    </template>
  </div>
</template>

<style scoped>
.disagreement {
  background: var(--watch-low);
  color: var(--light);
  border-bottom: 1px solid var(--caution-edge);
  padding: var(--s6) var(--s16);
  font-size: var(--t-note);
  display: grid;
  gap: var(--s8);
}
.line {
  display: flex;
  gap: var(--s10);
  align-items: center;
}
.line > span:nth-child(2) {
  flex: 1;
}
.sign {
  color: var(--watch);
  font: 700 var(--t-large)/1 var(--num);
}
.answers {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s8);
}
.answers .el-button {
  margin: 0;
}
.link {
  color: var(--watch);
  text-decoration: underline;
  min-height: 40px;
  padding: 0 var(--s4);
}
</style>
