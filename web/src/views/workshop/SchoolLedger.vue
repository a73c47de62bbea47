<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { api, newKey, Problem, told, type Policies, type Policy } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** The schools as numbers, side by side; the workshop's own copies can be changed. */
const bench = useBench()
const { busy, wrong, send, problem } = useSending(bench)
const all = ref<Policies | null>(null)
const failed = ref<string | null>(null)
const columns = computed(() => [...(all.value?.schools ?? []), ...(all.value?.copies ?? [])])

async function load() {
  try {
    all.value = await told(api.GET('/api/policies'))
    failed.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    failed.value = e.detail
  }
}
onMounted(load)

/** The copy that is being made or changed. */
const editing = ref<Policy | null>(null)
const form = reactive({
  id: '',
  name: '',
  limit: 'marked' as Policy['limit'],
  leakage: 'older military' as Policy['leakage'],
  condemns: [] as Policy['condemns'],
  numbers: {} as Record<string, string>,
})
function edit(p: Policy) {
  editing.value = p
  form.id = p.id ?? newKey()
  form.name = p.id ? p.name : ''
  form.limit = p.limit
  form.leakage = p.leakage
  form.condemns = [...p.condemns]
  form.numbers = Object.fromEntries(p.values.map((v) => [v.number, v.text]))
  untouched = JSON.stringify(form)
  leaving.value = false
}
// What was typed is not lost by one press.
let untouched = ''
const leaving = ref(false)
function leave() {
  if (leaving.value || JSON.stringify(form) === untouched) editing.value = null
  else leaving.value = true
}
async function keep() {
  const p = editing.value
  if (!p) return
  const body = { ...form, school: p.school, tight: p.tight, version: p.version }
  const done = await send(body, () =>
    p.id
      ? told(api.PATCH('/api/policies/{id}', { params: { path: { id: p.id } }, body }))
      : told(api.POST('/api/policies', { body })),
  )
  if (!done) return
  all.value = done
  editing.value = null
}
async function remove() {
  const id = editing.value?.id
  if (!id) return
  const done = await send({ remove: id }, () =>
    told(api.DELETE('/api/policies/{id}', { params: { path: { id } } })),
  )
  if (!done) return
  all.value = done
  editing.value = null
}
</script>

<template>
  <div class="ledger">
    <p v-if="failed" class="wrong" role="alert">{{ failed }}</p>
    <p v-else-if="!all" class="note" role="status">{{ words.workshop.loading }}</p>
    <table v-else>
      <thead>
        <tr>
          <th>{{ words.workshop.number }}</th>
          <th v-for="p in columns" :key="p.name" :class="{ own: p.id }">
            <b>{{ p.name }}</b>
            <span v-if="p.id" class="note">{{ words.workshop.follows }} {{ p.school }}</span>
            <button @click="edit(p)">{{ p.id ? words.judge.changeFacts : words.workshop.copy }}</button>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th>{{ words.workshop.limit }}</th>
          <td v-for="p in columns" :key="p.name">{{ words.workshop.limits[p.limit] }}</td>
        </tr>
        <tr>
          <th>{{ words.workshop.leakage }}</th>
          <td v-for="p in columns" :key="p.name">{{ p.leakage }}</td>
        </tr>
        <tr>
          <th>{{ words.workshop.condemns }}</th>
          <td v-for="p in columns" :key="p.name">
            {{ p.condemns.join(', ') || words.workshop.nobodyCondemned }}
          </td>
        </tr>
        <tr v-for="(n, i) in all.numbers" :key="n.number">
          <th :title="n.source">{{ n.label }}</th>
          <td v-for="p in columns" :key="p.name" class="num" :class="{ differs: p.values[i]?.differs }">
            {{ p.values[i]?.text }}
          </td>
        </tr>
      </tbody>
    </table>
    <PaperSheet
      v-if="editing && all"
      :title="editing.id ? editing.name : `${words.workshop.follows} ${editing.name}`"
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
            v-if="editing.id"
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
  </div>
</template>

<style scoped>
.ledger {
  overflow: auto;
  padding: 0 20px 16px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 13.5px;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--panel);
  padding-top: 12px;
  vertical-align: bottom;
  z-index: 1;
}
thead b {
  font: 600 15px/1.2 var(--title);
  display: block;
}
thead .note {
  font-weight: 400;
  font-size: 12px;
  display: block;
}
thead button {
  min-height: 40px;
  color: var(--lamp);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  font-weight: 500;
}
th,
td {
  text-align: left;
  padding: 6px 10px;
  border-bottom: 1px solid var(--edge);
}
tbody th {
  font-weight: 400;
  color: var(--muted);
  width: 34%;
}
.differs {
  color: var(--numeral);
  font-weight: 700;
}
.copy {
  display: grid;
  gap: 12px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.numbers {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
  max-height: 42vh;
  overflow-y: auto;
  align-items: end;
  padding: 4px 8px 4px 2px;
}
.actions {
  display: flex;
  justify-content: flex-end;
}
.wrong {
  color: var(--replace);
}
</style>
