<script setup lang="ts">
import Field from '../../components/Field.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useIncoming } from './useIncoming'

/** A bought rare part against a known good one, line by line. */
const w = words.transistor.incoming
const { draft, lines, found, problem, busy, answer, answers, keep } = useIncoming(useBench())
const wrong = (field: string) => (problem.value?.field === field ? problem.value.detail : null)
function wrongOf(name: string): string | null {
  const i = answers.value.findIndex((a) => a.look === name)
  const field = problem.value?.field ?? ''
  return i >= 0 && field.includes(`answers[${i}]`) ? (problem.value?.detail ?? null) : null
}
const TONE = {
  'no sign against it': 'keep',
  'not enough looked at': 'again',
  doubtful: 'watch',
  'signs against it': 'replace',
} as const
const sign = (name: string) => found.value?.signs.find((s) => s.look === name)
</script>

<template>
  <div class="desk-page page">
    <form class="desk" @submit.prevent="keep">
      <div class="head">
        <Field v-slot="{ id }" :label="w.type" :wrong="wrong('question.type') ?? wrong('type')">
          <ElInput :id="id" v-model="draft.type" placeholder="2SC2078" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="w.from" :wrong="wrong('bought_from')">
          <ElInput :id="id" v-model="draft.from" autocomplete="off" />
        </Field>
      </div>
      <ol class="rows grid lines">
        <li
          v-for="l in lines?.lines ?? []"
          :key="l.look"
          :class="{ against: sign(l.look)?.seen === 'as a false one' }"
        >
          <div class="ask" :title="l.source">
            <b>{{ l.ask }}</b>
            <span class="note"
              >{{ w.trueShows }} {{ l.true_one }} · {{ w.falseShows }} {{ l.false_one }}</span
            >
          </div>
          <fieldset v-if="l.kind === 'seen'" class="chips two">
            <legend class="sr">{{ l.look }}</legend>
            <label
              v-for="s in ['as a true one', 'as a false one']"
              :key="s"
              :class="{ on: answer(l.look).seen === s }"
            >
              <input
                type="checkbox"
                class="sr"
                :checked="answer(l.look).seen === s"
                @change="answer(l.look).seen = answer(l.look).seen === s ? '' : s"
              />{{ s === 'as a true one' ? w.asTrue : w.asFalse }}
            </label>
          </fieldset>
          <div v-else class="two">
            <Field
              v-slot="{ id }"
              :label="`${w.bought}${l.unit ? `, ${l.unit}` : ''}`"
              :wrong="wrongOf(l.look)"
            >
              <ElInput :id="id" v-model="answer(l.look).bought" inputmode="decimal" autocomplete="off" />
            </Field>
            <Field v-slot="{ id }" :label="w.known">
              <ElInput :id="id" v-model="answer(l.look).known" inputmode="decimal" autocomplete="off" />
            </Field>
          </div>
          <p
            v-if="sign(l.look) && l.kind === 'number'"
            class="said"
            :class="sign(l.look)?.seen === 'as a true one' ? 'keep' : 'replace'"
          >
            {{ sign(l.look)?.text }}
          </p>
        </li>
      </ol>
      <Field v-slot="{ id }" :label="w.note">
        <ElInput :id="id" v-model="draft.note" type="textarea" :rows="2" />
      </Field>
    </form>
    <section class="desk side" aria-live="polite">
      <p class="note">{{ w.never }}</p>
      <template v-if="found">
        <h3>{{ w.verdict }}</h3>
        <h2 :class="TONE[found.verdict]" data-test="inspection">{{ found.verdict }}</h2>
        <p>{{ found.next }}</p>
        <p v-if="found.open.length" class="note">{{ w.open }}: {{ found.open.join(', ') }}</p>
      </template>
      <p
        v-if="problem && !problem.field?.includes('answers[') && !problem.field?.endsWith('type')"
        class="problem"
        role="alert"
      >
        {{ problem.detail }}
      </p>
      <ElButton type="primary" :loading="busy" @click="keep">{{ w.keep }}</ElButton>
      <h3>{{ w.kept }}</h3>
      <p v-if="lines && !lines.kept.length" class="note">{{ w.none }}</p>
      <ul class="rows kept">
        <li v-for="k in lines?.kept ?? []" :key="k.id">
          <b class="num">{{ k.type }}</b> <span :class="TONE[k.verdict]">{{ k.verdict }}</span>
          <span class="note">{{ when(k.inspected_at) }} · {{ k.bought_from }}</span>
          <span v-if="k.note" class="note">{{ k.note }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 1fr) 350px;
}
.side h2 {
  font: 600 var(--t-sign)/1.2 var(--title);
}
.side .el-button {
  margin: var(--s12) 0;
}
.head {
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  gap: var(--s10);
}
.lines {
  --row: minmax(0, 1fr) 300px;
  margin: var(--s8) 0;
}
.lines > li {
  align-items: center;
}
.lines .against {
  background: linear-gradient(90deg, var(--replace-low), transparent);
}
.ask .note {
  display: block;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8);
  align-items: start;
}
.said {
  grid-column: 2;
  font-size: var(--t-note);
}
.kept .note {
  display: block;
}
</style>
