<script setup lang="ts">
import { useLocalStorage, useSessionStorage } from '@vueuse/core'
import { reactive, ref } from 'vue'
import { api, newKey, Problem, told } from '../../api/client'
import Field from '../../components/Field.vue'
import CautionSign from '../../drawing/CautionSign.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useSession } from '../people/useSession'
import { useStage } from './useStage'

/** What is gone through before work, before first power or before closing: seen or measured, with name and time. */
const { before = 'work' } = defineProps<{ before?: 'work' | 'power' | 'closing' }>()
const emit = defineEmits<{ ticked: [] }>()
const w = words.job.safety
const who = useLocalStorage('owl-who', '')
// Whoever is signed in ticks: no name is asked for.
const { person } = useSession()
const session = useSessionStorage('owl-session', newKey())
const { data, problem, ticket, fetch } = useStage((id) =>
  told(
    api.GET('/api/tickets/{id}/safety', {
      params: { path: { id }, query: { session: session.value, before } },
    }),
  ),
)
const wrong = ref<Problem | null>(null)
const values = reactive<Record<string, string>>({})
const at = ref('')
const named = (field: string) => (wrong.value?.field === field ? wrong.value.detail : null)
async function tick(line: string, value = '') {
  at.value = line
  const id = ticket.value
  if (!id) return
  try {
    data.value = await told(
      api.POST('/api/tickets/{id}/safety', {
        params: { path: { id } },
        body: { key: newKey(), line, who: who.value, session: session.value, before, value },
      }),
    )
    wrong.value = null
    emit('ticked')
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    wrong.value = e
  }
}
</script>

<template>
  <section class="safety" :class="{ open: data && !data.all_ticked }">
    <h3><CautionSign v-if="!data?.all_ticked" /> {{ w.title[before] }}</h3>
    <p v-if="problem && !data" class="problem" role="alert">
      {{ problem.detail }} <button class="link" @click="fetch">{{ words.away.again }}</button>
    </p>
    <p v-else-if="!data" class="loading">{{ words.job.loading }}</p>
    <template v-else>
      <Field
        v-if="!data.all_ticked && !person"
        v-slot="{ id, described }"
        :label="w.who"
        :wrong="named('who') ?? (wrong?.field ? null : wrong?.detail)"
      >
        <ElInput :id="id" v-model="who" autocomplete="name" :aria-describedby="described" />
      </Field>
      <p v-if="person && wrong && !wrong.field" class="problem" role="alert">{{ wrong.detail }}</p>
      <ol class="rows grid">
        <li v-for="l in data.lines" :key="l.line" :title="l.source">
          <span class="text">
            {{ l.text }}
            <span v-if="l.each_session" class="note">{{ w.each }}</span>
          </span>
          <span v-if="l.who && l.ticked_at && l.passes" class="keep done"
            >✓ <b v-if="l.value" class="num">{{ l.value.text }}</b> {{ l.who }},
            <span class="num">{{ when(l.ticked_at) }}</span></span
          >
          <form v-else-if="l.measured" class="value" @submit.prevent="tick(l.line, values[l.line])">
            <Field
              v-slot="{ id, described }"
              :label="l.limit"
              :wrong="
                l.passes === false
                  ? `${l.value?.text}: ${w.fails}`
                  : at === l.line && wrong?.field === 'value'
                    ? wrong?.detail
                    : null
              "
            >
              <ElInput
                :id="id"
                v-model="values[l.line]"
                autocomplete="off"
                :aria-label="`${l.text}: ${l.limit}`"
                :aria-describedby="described"
              />
            </Field>
            <ElButton native-type="submit">{{ w.note }}</ElButton>
            <ElButton v-if="l.may_be_absent" @click="tick(l.line)">{{ w.absent }}</ElButton>
          </form>
          <ElButton v-else @click="tick(l.line)">{{ w.tick }}</ElButton>
        </li>
      </ol>
      <p v-if="data.all_ticked" class="keep">{{ w.all }}</p>
      <p class="note">{{ w.local }}</p>
    </template>
  </section>
</template>

<style scoped>
.safety {
  border: 1px solid var(--edge);
  border-radius: 9px;
  padding: var(--s4) var(--s14) var(--s10);
}
.safety.open {
  background: var(--caution);
  border-color: var(--caution-edge);
  color: var(--caution-ink);
}
.open .note,
.open :deep(label) {
  color: inherit;
}
h3 {
  display: flex;
  gap: var(--s8);
  align-items: center;
}
li {
  align-items: center;
  min-height: 44px;
}
.open li {
  border-color: var(--caution-edge);
}
ol {
  --row: 1fr auto;
  margin: var(--s8) 0;
}
.text .note {
  display: block;
}
.value {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s8);
  align-items: end;
  justify-content: end;
}
.value :deep(.el-input) {
  width: 110px;
}
.done {
  font-size: var(--t-small);
}
</style>
