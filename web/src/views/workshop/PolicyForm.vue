<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, newKey, told, type Policies, type Policy } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** A copy of a school with numbers of the workshop's own. */
const props = defineProps<{ all: Policies; policy: Policy }>()
const emit = defineEmits<{ kept: [all: Policies]; close: [] }>()
const { busy, wrong, send, problem } = useSending(useBench())
const form = reactive({
  id: props.policy.id ?? newKey(),
  name: props.policy.id ? props.policy.name : '',
  limit: props.policy.limit,
  leakage: props.policy.leakage,
  condemns: [...props.policy.condemns],
  numbers: Object.fromEntries(props.policy.values.map((v) => [v.number, v.text])) as Record<string, string>,
})
// What was typed is not lost by one press.
const untouched = JSON.stringify(form)
const leaving = ref(false)
function leave() {
  if (leaving.value || JSON.stringify(form) === untouched) emit('close')
  else leaving.value = true
}
async function keep() {
  const p = props.policy
  const body = { ...form, school: p.school, tight: p.tight, version: p.version }
  const done = await send(body, () =>
    p.id
      ? told(api.PATCH('/api/policies/{id}', { params: { path: { id: p.id } }, body }))
      : told(api.POST('/api/policies', { body })),
  )
  if (done) emit('kept', done)
}
async function remove() {
  const id = props.policy.id
  if (!id) return
  const done = await send({ remove: id }, () =>
    told(api.DELETE('/api/policies/{id}', { params: { path: { id } } })),
  )
  if (done) emit('kept', done)
}
</script>

<template>
  <PaperSheet
    :title="policy.id ? policy.name : `${words.workshop.follows} ${policy.name}`"
    written
    @close="leave"
  >
    <form class="copy" @submit.prevent="keep">
      <Field v-slot="{ id }" :label="words.workshop.name" :wrong="wrong('name')">
        <ElInput :id="id" v-model="form.name" autofocus autocomplete="off" />
      </Field>
      <div class="two">
        <Field v-slot="{ id }" :label="words.workshop.limit">
          <ElSelect :id="id" v-model="form.limit" :teleported="false">
            <ElOption v-for="l in all.limits" :key="l" :value="l" :label="words.workshop.limits[l]" />
          </ElSelect>
        </Field>
        <Field v-slot="{ id }" :label="words.workshop.leakage">
          <ElSelect :id="id" v-model="form.leakage" :teleported="false">
            <ElOption v-for="l in all.leakages" :key="l" :value="l" :label="l" />
          </ElSelect>
        </Field>
      </div>
      <Field v-slot="{ id }" :label="words.workshop.condemns" :wrong="wrong('condemns')">
        <ElSelect :id="id" v-model="form.condemns" multiple collapse-tags :teleported="false">
          <ElOption v-for="f in all.families" :key="f" :value="f" :label="f" />
        </ElSelect>
      </Field>
      <div class="numbers">
        <Field
          v-for="n in all.numbers"
          :key="n.number"
          v-slot="{ id }"
          :label="n.label"
          :hint="`${n.least} to ${n.most}`"
          :wrong="wrong(`numbers.${n.number}`)"
        >
          <ElInput :id="id" v-model="form.numbers[n.number]" autocomplete="off" />
        </Field>
      </div>
      <p v-if="problem && !problem.field" class="wrong" role="alert">{{ problem.detail }}</p>
      <div class="actions">
        <ElPopconfirm
          v-if="policy.id"
          :title="words.workshop.removeAsk"
          :teleported="false"
          @confirm="remove"
        >
          <template #reference>
            <ElButton>{{ words.workshop.remove }}</ElButton>
          </template>
        </ElPopconfirm>
        <ElButton @click="leave">{{ leaving ? words.workshop.throwAway : words.workshop.cancel }}</ElButton>
        <ElButton type="primary" native-type="submit" :loading="busy">{{ words.workshop.keep }}</ElButton>
      </div>
    </form>
  </PaperSheet>
</template>

<style scoped>
.copy {
  display: grid;
  gap: var(--s12);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s12);
}
.numbers {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s10) var(--s14);
  max-height: 42vh;
  overflow-y: auto;
  align-items: end;
  padding: var(--s4) var(--s8) var(--s4) var(--s2);
}
.actions {
  display: flex;
  justify-content: flex-end;
}
.wrong {
  color: var(--replace);
}
</style>
