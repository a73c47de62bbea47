<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, newKey, Problem, told, type Instrument, type InstrumentBody } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import WayFields from './WayFields.vue'
import type { Way } from './way'

/** One instrument with its ways and ranges, typed as its handbook has them. */
const props = defineProps<{ change: Instrument | null }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const { busy, wrong, send, problem } = useSending(bench)
const id = props.change?.id ?? newKey()

const form = reactive({
  name: props.change?.name ?? '',
  kind: props.change?.kind ?? ('multimeter' as Instrument['kind']),
  checked_on: props.change?.checked_on ?? '',
  retired: props.change?.retired ?? false,
  address: props.change?.address ?? '',
  ways: (props.change?.ways ?? []).map((w): Way => ({
    name: w.name,
    quantity: w.quantity,
    mode: w.mode,
    test_frequency: w.test_frequency ?? '',
    test_voltage: w.test_voltage ?? '',
    setting: w.setting ?? null,
    ranges: w.ranges.map((r) => ({ ...r })),
  })),
})
const list = () => bench.workshop.value?.words

function addWay() {
  form.ways.push({
    name: '',
    quantity: 'resistance',
    mode: 'dc',
    test_frequency: '',
    test_voltage: '',
    setting: null,
    ranges: [],
  })
}
// What was typed is not lost by one press.
const untouched = JSON.stringify(form)
const leaving = ref(false)
function leave() {
  if (leaving.value || JSON.stringify(form) === untouched) emit('close')
  else leaving.value = true
}
/** Whether the instrument answers at the address that is kept. */
const asked = ref<{ identity?: string; wrong?: string } | null>(null)
async function ask() {
  try {
    const path = { path: { id } }
    asked.value = await told(api.POST('/api/instruments/{id}/identify', { params: path }))
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    asked.value = { wrong: e.detail }
  }
}
async function keep() {
  const body: InstrumentBody = { ...form, id, version: props.change?.version }
  const done = await send(body, () =>
    props.change
      ? told(api.PATCH('/api/instruments/{id}', { params: { path: { id } }, body }))
      : told(api.POST('/api/instruments', { body })),
  )
  if (!done) return
  await bench.refreshWorkshop()
  emit('close')
}
</script>

<template>
  <form class="instrument" @submit.prevent="keep">
    <div class="fields">
      <div class="top">
        <Field v-slot="{ id: at }" :label="words.workshop.name" :wrong="wrong('name')">
          <ElInput :id="at" v-model="form.name" autofocus autocomplete="off" />
        </Field>
        <Field v-slot="{ id: at }" :label="words.workshop.kind" :wrong="wrong('kind')">
          <ElSelect :id="at" v-model="form.kind">
            <ElOption v-for="k in list()?.instrument_kinds ?? []" :key="k" :value="k" :label="k" />
          </ElSelect>
        </Field>
        <Field v-slot="{ id: at }" :label="words.workshop.checked" :wrong="wrong('checked_on')">
          <ElInput
            :id="at"
            v-model="form.checked_on"
            :placeholder="words.workshop.checkedExample"
            autocomplete="off"
          />
        </Field>
        <Field
          v-slot="{ id: at, described }"
          :label="words.workshop.address"
          :wrong="wrong('address') ?? asked?.wrong"
          :hint="asked?.identity ?? words.workshop.addressHint"
        >
          <ElInput
            :id="at"
            v-model="form.address"
            :placeholder="words.workshop.addressExample"
            :aria-describedby="described"
            autocomplete="off"
          />
        </Field>
        <ElButton v-if="change?.address" class="beside" @click="ask">{{ words.workshop.ask }}</ElButton>
        <ElCheckbox v-model="form.retired" class="beside" :label="words.workshop.retired" />
      </div>
      <h3>{{ words.workshop.ways }}</h3>
      <WayFields
        v-for="(_, i) in form.ways"
        :key="i"
        v-model="form.ways[i]!"
        :kind="form.kind"
        :wrong="(field) => wrong(`ways[${i}].${field}`)"
        @remove="form.ways.splice(i, 1)"
      />
      <ElButton @click="addWay">+ {{ words.workshop.addWay }}</ElButton>
      <p v-if="problem && !problem.field" class="wrong" role="alert">{{ problem.detail }}</p>
    </div>
    <div class="foot">
      <ElButton type="primary" native-type="submit" :loading="busy">{{ words.workshop.keep }}</ElButton>
      <ElButton @click="leave">{{ leaving ? words.workshop.throwAway : words.workshop.cancel }}</ElButton>
    </div>
  </form>
</template>

<style scoped>
.instrument {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
}
.fields {
  overflow-y: auto;
  padding: var(--s16) var(--s20);
  display: grid;
  gap: var(--s12);
  align-content: start;
  justify-items: start;
}
.top {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: var(--s10) var(--s14);
  width: 100%;
  align-items: start;
}
h3 {
  font: 600 var(--t-head) var(--title);
}
.wrong {
  color: var(--replace);
}
.beside {
  margin-top: var(--s20);
}
</style>
