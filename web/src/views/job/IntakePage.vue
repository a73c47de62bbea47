<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { api, told, type Ticket } from '../../api/client'
import Field from '../../components/Field.vue'
import UndoLast from '../bench/UndoLast.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import PhotoShelf from './PhotoShelf.vue'
import SafetyList from './SafetyList.vue'

/** The set as it comes in. */
const props = defineProps<{ ticket: Ticket }>()
const bench = useBench()
const w = words.job.intake
const { busy, problem, wrong, send } = useSending(bench)
const said = props.ticket.intake
const form = reactive({
  complaint: props.ticket.complaint,
  symptoms: [...said.symptoms],
  wants: said.wants,
  supply: said.supply,
  earlier_work: said.earlier_work,
  line: said.line?.text ?? '',
  watts: said.watts?.text ?? '',
  sheet_line: said.sheet_line?.text ?? '',
  sheet_ohms_per_volt: said.sheet_ohms_per_volt?.text ?? '',
})
const untouched = JSON.stringify(form)
const written = computed(() => JSON.stringify(form) !== untouched)
const list = computed(() => bench.workshop.value?.words.symptoms ?? [])
const all = computed(() => [...list.value, ...form.symptoms.filter((s) => !list.value.includes(s))])
const own = ref('')
function turn(symptom: string) {
  const at = form.symptoms.indexOf(symptom)
  if (at < 0) form.symptoms.push(symptom)
  else form.symptoms.splice(at, 1)
}
function addOwn() {
  const text = own.value.trim()
  if (text && !form.symptoms.includes(text)) form.symptoms.push(text)
  own.value = ''
}
async function save() {
  addOwn()
  const { complaint, ...intake } = form
  await send({ ...form }, () =>
    told(
      api.PATCH('/api/tickets/{id}', {
        params: { path: { id: props.ticket.id } },
        body: { version: props.ticket.version, complaint, intake },
      }),
    ),
  )
}
const TYPED = [
  { name: 'line', label: w.line, example: '230 V' },
  { name: 'watts', label: w.watts, example: '38 W' },
  { name: 'sheet_line', label: w.sheetLine, example: '220 V' },
  { name: 'sheet_ohms_per_volt', label: w.sheetMeter, example: '1 kΩ' },
] as const
const FIELDS = /^(complaint|intake\.)/
</script>

<template>
  <div class="desk-page page">
    <form class="desk" @submit.prevent="save">
      <UndoLast :part="null" />
      <h3>{{ ticket.name }}</h3>
      <p class="note">{{ ticket.class.in_words }} · {{ ticket.school }} · {{ w.edit }} <kbd>E</kbd></p>
      <Field v-slot="{ id, described }" :label="w.complaint" :wrong="wrong('complaint')">
        <ElInput :id="id" v-model="form.complaint" type="textarea" :rows="2" :aria-describedby="described" />
      </Field>
      <div class="field">
        <span class="label">{{ w.symptoms }}</span>
        <div class="chips row" role="group" :aria-label="w.symptoms">
          <button
            v-for="s in all"
            :key="s"
            type="button"
            :class="{ on: form.symptoms.includes(s) }"
            :aria-pressed="form.symptoms.includes(s)"
            @click="turn(s)"
          >
            {{ s }}
          </button>
          <input
            v-model="own"
            class="own"
            :placeholder="w.own"
            :aria-label="w.own"
            autocomplete="off"
            @keydown.enter.prevent="addOwn"
          />
        </div>
        <span v-if="wrong('intake.symptoms')" class="wrong" role="alert">{{ wrong('intake.symptoms') }}</span>
      </div>
      <div class="two">
        <Field v-slot="{ id, described }" :label="w.wants" :wrong="wrong('intake.wants')">
          <ElInput
            :id="id"
            v-model="form.wants"
            class="text"
            :placeholder="w.wantsExample"
            :aria-describedby="described"
          />
        </Field>
        <Field v-slot="{ id, described }" :label="w.supply" :wrong="wrong('intake.supply')">
          <ElInput
            :id="id"
            v-model="form.supply"
            class="text"
            :placeholder="w.supplyExample"
            :aria-describedby="described"
          />
        </Field>
      </div>
      <div class="four">
        <Field
          v-for="f in TYPED"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="wrong(`intake.${f.name}`)"
        >
          <ElInput
            :id="id"
            v-model="form[f.name]"
            :placeholder="f.example"
            autocomplete="off"
            :aria-describedby="described"
          />
        </Field>
      </div>
      <Field v-slot="{ id, described }" :label="w.earlier" :wrong="wrong('intake.earlier_work')">
        <ElInput
          :id="id"
          v-model="form.earlier_work"
          class="text"
          :placeholder="w.earlierExample"
          :aria-describedby="described"
        />
      </Field>
      <p v-if="problem && !FIELDS.test(problem.field ?? '')" class="problem" role="alert">
        {{ problem.detail }}
      </p>
      <div class="stick">
        <ElButton type="primary" native-type="submit" :loading="busy">{{ w.save }}</ElButton>
        <span class="note" role="status">{{ written ? w.unsaved : w.kept }}</span>
      </div>
    </form>
    <div class="desk">
      <SafetyList />
      <PhotoShelf />
    </div>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 12fr) minmax(0, 9fr);
}
form {
  display: grid;
  gap: var(--s8);
  align-content: start;
}
h3 {
  margin: 0;
  font-size: var(--t-large);
}
.own {
  flex: 1;
  min-width: 170px;
  min-height: 40px;
  padding: var(--s4) var(--s10);
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  font: inherit;
}
.two,
.four {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8) var(--s12);
}
.four {
  grid-template-columns: repeat(4, 1fr);
}
.text :deep(input) {
  font-family: var(--text);
}
@media (max-width: 1000px) {
  .four {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
