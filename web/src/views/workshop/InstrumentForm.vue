<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, newKey, Problem, told, type Instrument, type InstrumentBody } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** One instrument with its ways and ranges, typed as its handbook has them. */
const props = defineProps<{ change: Instrument | null }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const { busy, wrong, send, problem } = useSending(bench)
const id = props.change?.id ?? newKey()

type Way = InstrumentBody['ways'][number] & { ranges: NonNullable<InstrumentBody['ways'][number]['ranges']> }
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
function addRange(w: Way) {
  w.ranges.push({
    up_to: '',
    percent: w.ranges.at(-1)?.percent ?? '',
    counts: w.ranges.at(-1)?.counts ?? 0,
    resolution: '',
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
      <fieldset v-for="(w, i) in form.ways" :key="i">
        <legend class="sr">{{ w.name || words.workshop.ways }}</legend>
        <div class="way">
          <Field v-slot="{ id: at }" :label="words.workshop.way" :wrong="wrong(`ways[${i}].name`)">
            <ElInput :id="at" v-model="w.name" autocomplete="off" />
          </Field>
          <Field v-slot="{ id: at }" :label="words.workshop.quantity" :wrong="wrong(`ways[${i}].quantity`)">
            <ElSelect :id="at" v-model="w.quantity">
              <ElOption
                v-for="q in list()?.quantities ?? []"
                :key="q.called + q.quantities[0]"
                :value="q.quantities[0] ?? ''"
                :label="q.called"
              />
            </ElSelect>
          </Field>
          <Field v-slot="{ id: at }" :label="words.workshop.mode">
            <ElSelect :id="at" v-model="w.mode">
              <ElOption v-for="m in list()?.modes ?? []" :key="m" :value="m" :label="m" />
            </ElSelect>
          </Field>
          <Field
            v-if="w.mode === 'ac'"
            v-slot="{ id: at }"
            :label="words.workshop.hertz"
            :wrong="wrong(`ways[${i}].test_frequency`)"
          >
            <ElInput :id="at" v-model="w.test_frequency" autocomplete="off" />
          </Field>
          <Field v-slot="{ id: at }" :label="words.workshop.volts" :wrong="wrong(`ways[${i}].test_voltage`)">
            <ElInput :id="at" v-model="w.test_voltage" autocomplete="off" />
          </Field>
          <Field v-if="form.kind === 'leakage tester'" v-slot="{ id: at }" :label="words.workshop.setting">
            <ElSelect :id="at" v-model="w.setting" clearable :value-on-clear="null">
              <ElOption v-for="s in list()?.settings ?? []" :key="s" :value="s" :label="s" />
            </ElSelect>
          </Field>
          <ElButton class="remove" @click="form.ways.splice(i, 1)">{{ words.workshop.remove }}</ElButton>
        </div>
        <div v-if="w.ranges.length" class="range note" aria-hidden="true">
          <span v-for="(text, k) in words.workshop.range" :key="k">{{ text }}</span>
        </div>
        <div v-for="(r, j) in w.ranges" :key="j" class="range">
          <template v-for="(text, k) in words.workshop.range" :key="k">
            <input
              v-if="k === 'counts'"
              v-model.number="r.counts"
              class="counts"
              type="text"
              inputmode="numeric"
              :aria-label="text"
            />
            <div v-else>
              <ElInput v-model="r[k]" :aria-label="text" autocomplete="off" />
              <span v-if="wrong(`ways[${i}].ranges[${j}].${k}`)" class="wrong" role="alert">{{
                wrong(`ways[${i}].ranges[${j}].${k}`)
              }}</span>
            </div>
          </template>
          <button
            type="button"
            class="remove"
            :aria-label="words.workshop.remove"
            @click="w.ranges.splice(j, 1)"
          >
            ✕
          </button>
        </div>
        <p v-if="wrong(`ways[${i}].ranges`)" class="wrong" role="alert">{{ wrong(`ways[${i}].ranges`) }}</p>
        <ElButton @click="addRange(w)">+ {{ words.workshop.addRange }}</ElButton>
      </fieldset>
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
  padding: 16px 20px;
  display: grid;
  gap: 12px;
  align-content: start;
  justify-items: start;
}
.top,
.way {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px 14px;
  width: 100%;
  align-items: end;
}
.top {
  align-items: start;
}
h3 {
  font: 600 16px var(--title);
}
fieldset {
  border: 1px solid var(--edge);
  border-radius: 10px;
  padding: 12px 16px;
  margin: 0;
  width: 100%;
  display: grid;
  gap: 8px;
  justify-items: start;
}
.range {
  display: grid;
  grid-template-columns: 140px 110px 80px 140px 40px;
  gap: 8px;
  align-items: start;
}
.range .counts {
  min-height: 40px;
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 8px;
  padding: 4px 12px;
  font: 400 14px var(--num);
  width: 100%;
}
.range .remove {
  width: 40px;
  height: 40px;
  text-align: center;
  color: var(--muted);
}
.wrong {
  color: var(--replace);
}
.beside {
  margin-top: 20px;
}
</style>
