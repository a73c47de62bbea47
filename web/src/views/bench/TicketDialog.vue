<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { api, newKey, Problem, told, type Policy, type Ticket } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import DeleteTicket from './DeleteTicket.vue'
import StoryList from '../people/StoryList.vue'
import { useBench } from './useBench'

const props = defineProps<{ change: Ticket | null }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()

const form = reactive({
  name: props.change?.name ?? '',
  source: props.change?.class.source ?? ('mains transformer' as Ticket['class']['source']),
  devices: props.change?.class.devices ?? ('valves' as Ticket['class']['devices']),
  highest: props.change?.class.highest?.text ?? '',
  school: props.change?.school ?? ('test first' as Ticket['school']),
  tight: props.change?.tight ?? false,
  policy: props.change?.policy?.id ?? null,
  complaint: props.change?.complaint ?? '',
})
const untouched = JSON.stringify(form)
const dirty = computed(() => JSON.stringify(form) !== untouched)
const id = newKey()
const wrong = ref<Problem | null>(null)
const at = (field: string) => (wrong.value?.field === field ? wrong.value.detail : null)
const school = computed(() => bench.workshop.value?.schools.find((s) => s.school === form.school))

/** The workshop's own copies of the schools, to be chosen as a school is. */
const copies = ref<Policy[]>([])
onMounted(async () => {
  try {
    copies.value = (await told(api.GET('/api/policies'))).copies
  } catch (e) {
    if (!(e instanceof Problem)) throw e
  }
})
const follows = computed({
  get: () => form.policy ?? form.school,
  set: (value: string) => {
    const copy = copies.value.find((c) => c.id === value)
    form.policy = copy?.id ?? null
    if (copy) {
      form.school = copy.school
      form.tight = copy.tight
    } else form.school = value as Ticket['school']
  },
})

async function save() {
  const body = {
    ...form,
    tight: form.tight && school.value?.has_tight === true,
  }
  const now = props.change
  const { done, problem } = await bench.change(() =>
    now
      ? told(
          api.PATCH('/api/tickets/{id}', {
            params: { path: { id: now.id } },
            body: { ...body, version: now.version },
          }),
        )
      : told(api.POST('/api/tickets', { body: { ...body, id } })),
  )
  wrong.value = problem ?? null
  if (done) {
    emit('close')
    if (!now) bench.openTicket(done.id)
  } else if (problem?.status === 409) emit('close')
}
</script>

<template>
  <PaperSheet
    :title="change ? words.ticket.edit : words.ticket.title"
    :written="dirty"
    @close="emit('close')"
  >
    <form @submit.prevent="save">
      <Field v-slot="{ id: at_ }" :label="words.ticket.name" :wrong="at('name')">
        <ElInput :id="at_" v-model="form.name" autofocus :placeholder="words.ticket.namePlaceholder" />
      </Field>
      <div class="two">
        <Field v-slot="{ id: at_ }" :label="words.ticket.source" :wrong="at('source')">
          <ElSelect :id="at_" v-model="form.source" :teleported="false">
            <ElOption v-for="s in bench.workshop.value?.words.sources ?? []" :key="s" :value="s" :label="s" />
          </ElSelect>
        </Field>
        <Field v-slot="{ id: at_ }" :label="words.ticket.devices" :wrong="at('devices')">
          <ElSelect :id="at_" v-model="form.devices" :teleported="false">
            <ElOption
              v-for="d in bench.workshop.value?.words.devices ?? []"
              :key="d"
              :value="d"
              :label="said(d)"
            />
          </ElSelect>
        </Field>
        <Field
          v-slot="{ id: at_ }"
          :label="words.ticket.highest"
          :hint="words.ticket.highestHint"
          :wrong="at('highest')"
        >
          <ElInput :id="at_" v-model="form.highest" autocomplete="off" />
        </Field>
        <Field
          v-slot="{ id: at_ }"
          :label="words.ticket.school"
          :wrong="at('tight')"
          :hint="school?.in_words"
        >
          <ElSelect :id="at_" v-model="follows" :teleported="false">
            <ElOption
              v-for="s in bench.workshop.value?.schools ?? []"
              :key="s.school"
              :value="s.school"
              :label="s.school"
            />
            <ElOption
              v-for="c in copies"
              :key="c.id ?? c.name"
              :value="c.id ?? ''"
              :label="`${c.name}, ${words.ticket.copyOf} ${c.school}`"
            />
          </ElSelect>
        </Field>
      </div>
      <ElCheckbox v-if="school?.has_tight && !form.policy" v-model="form.tight" :label="words.ticket.tight" />
      <Field v-slot="{ id: at_ }" :label="words.ticket.complaint" :wrong="at('complaint')">
        <ElInput :id="at_" v-model="form.complaint" type="textarea" :rows="3" />
      </Field>
      <p v-if="wrong && !wrong.field" class="wrong" role="alert">{{ wrong.detail }}</p>
      <div class="actions">
        <ElButton @click="emit('close')">{{ words.ticket.cancel }}</ElButton>
        <ElButton type="primary" native-type="submit">
          {{ change ? words.ticket.keep : words.ticket.open }}
        </ElButton>
      </div>
    </form>
    <DeleteTicket v-if="change" :ticket="change" @gone="emit('close')" />
    <StoryList v-if="change" :id="change.id" class="story" of="tickets" :version="change.version" />
  </PaperSheet>
</template>

<style scoped>
/* the sheet is full already */
.story {
  --story-height: 96px;
}
form {
  display: grid;
  gap: var(--s14);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s14);
}
.actions {
  display: flex;
  justify-content: flex-end;
}
.wrong {
  color: var(--replace);
}
</style>
