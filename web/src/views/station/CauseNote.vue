<script setup lang="ts">
import { ref } from 'vue'
import { api, told, type Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from './useSending'

/** Why did it fail? A question that stays open until it is answered: a cooked part is usually a symptom. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const { wrong, send, busy, problem } = useSending(bench)
const answer = ref('')
const open = ref(false)

async function say(culprit: string | null) {
  const content = { answer: answer.value, culprit, version: props.part.version }
  const done = await send(content, ({ key }) =>
    told(
      api.POST('/api/parts/{id}/causes', {
        params: { path: { id: props.part.id } },
        body: { key, ...content },
      }),
    ),
  )
  if (done) {
    answer.value = ''
    open.value = false
  }
}
</script>

<template>
  <div v-if="part.cause && !part.cause.answer" class="cause" role="group" :aria-label="words.cause.label">
    <p class="line">
      <span class="sign" aria-hidden="true">?</span>
      <span>
        {{ part.cause.question }}
        <template v-if="part.cause.suspects.length">
          {{ words.cause.perhaps }}
          <button
            v-for="s in part.cause.suspects"
            :key="s.name"
            class="link"
            :title="s.because"
            @click="bench.select(s.name)"
          >
            {{ s.name }}
          </button>
        </template>
        <span v-else class="note">{{ words.cause.nobody }}</span>
      </span>
      <button class="link" @click="bench.openStage('feed')">{{ words.job.feed.open }}</button>
      <button class="link answer" data-test="answer" :aria-expanded="open" @click="open = !open">
        {{ words.cause.answer }}
      </button>
    </p>
    <template v-if="open">
      <ul class="suspects">
        <li v-for="s in part.cause.suspects" :key="s.name">
          <ElButton :disabled="busy" @click="say(s.name)">{{ words.cause.was }} {{ s.name }}</ElButton>
          <span class="note">{{ s.because }}</span>
        </li>
      </ul>
      <Field v-slot="{ id }" :label="words.cause.else" :wrong="wrong('answer') ?? problem?.detail">
        <ElInput :id="id" v-model="answer" autocomplete="off" @keydown.enter.prevent="say(null)" />
      </Field>
      <ElButton :loading="busy" @click="say(null)">{{ words.cause.keep }}</ElButton>
    </template>
  </div>
</template>

<style scoped>
.cause {
  background: var(--replace-low);
  border-bottom: 1px solid var(--caution-edge);
  padding: var(--s6) var(--s16);
  font-size: var(--t-note);
  display: grid;
  gap: var(--s8);
  justify-items: start;
}
.line {
  display: flex;
  gap: var(--s10);
  align-items: center;
  width: 100%;
}
.line > span:nth-child(2) {
  flex: 1;
}
.sign {
  color: var(--replace);
  font: 700 var(--t-large)/1 var(--num);
}
.link {
  color: var(--replace);
  text-decoration: underline;
  min-height: 40px;
  padding: 0 var(--s4);
}
.suspects {
  display: grid;
  gap: var(--s6);
}
.suspects li {
  display: flex;
  gap: var(--s10);
  align-items: center;
}
.field {
  width: 100%;
}
</style>
