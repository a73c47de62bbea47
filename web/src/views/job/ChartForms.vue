<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { ChartPoint } from '../../api/client'
import type { UseChart } from './useChart'

/** What goes into the chart: a set of readings, a valve with all its pins, a point. */
const props = defineProps<{ chart: UseChart }>()
const bench = useBench()
const w = words.job.chart
const { data, point, writing, sending } = props.chart
const form = ref<'run' | 'valve' | 'point' | null>(null)
const wrong = (of: typeof form.value, field: string) => (form.value === of ? sending.wrong(field) : null)
const general = computed(() => {
  const p = sending.problem.value
  return p && !p.field && form.value ? p.detail : null
})

const run = reactive({ id: null as string | null, name: '', line: '', meter: '10 MΩ' })
function beginRun() {
  const first = !data.value?.runs.length
  Object.assign(run, {
    id: null,
    name: first ? w.before : w.after,
    line: writing.value?.line?.text ?? '',
    meter: '10 MΩ',
  })
  form.value = 'run'
}
function editRun() {
  const r = writing.value
  if (!r) return
  Object.assign(run, { id: r.id, name: r.name, line: r.line?.text ?? '', meter: r.meter?.text ?? '' })
  form.value = 'run'
}
const valve = reactive({ at: '', valve: '', board: '' })
const p = reactive({
  id: null as string | null,
  at: '',
  pin: '',
  valve: '',
  note: '',
  sheet: '',
  fed_through: '',
  heater: false,
  steady: false,
  pair: '',
})
const of = (now: ChartPoint) => ({
  id: now.id,
  at: now.at,
  pin: now.pin ? String(now.pin) : '',
  valve: now.valve,
  note: now.note,
  sheet: now.sheet?.text ?? '',
  fed_through: now.fed_through?.text ?? '',
  heater: now.heater,
  steady: now.steady,
  pair: now.pair ?? '',
})
/** The point as it stood when it came into the form. */
let seen = { ...p }
/** The point in hand stands in the form: its sheet's volts are what is most often typed. */
watch(
  [point, () => data.value],
  () => {
    const now = point.value
    if (form.value === 'point' && !p.id) return
    if (!now) return
    const stands = of(now)
    // What another bench changed comes in, unless it is being changed here.
    const fields = Object.keys(stands) as (keyof typeof stands)[]
    const same = p.id === now.id
    const touched = fields.filter((f) => same && p[f] !== seen[f])
    for (const f of fields) if (!touched.includes(f)) Object.assign(p, { [f]: stands[f] })
    seen = { ...stands, ...Object.fromEntries(touched.map((f) => [f, seen[f]])) }
  },
  { immediate: true },
)
function beginPoint() {
  Object.assign(p, {
    id: null,
    at: '',
    pin: '',
    valve: '',
    note: '',
    sheet: '',
    fed_through: '',
    heater: false,
    steady: false,
    pair: '',
  })
  form.value = 'point'
}
/** Closes a form that was saved, unless another one was opened meanwhile. */
function done(which: typeof form.value) {
  if (form.value === which) form.value = null
}
async function saveRun() {
  if (await props.chart.putRun({ ...run })) done('run')
}
async function saveValve() {
  if (!(await props.chart.addValve({ ...valve }))) return
  valve.at = ''
  valve.valve = ''
  valve.board = ''
  done('valve')
}
async function savePoint() {
  const pin = p.pin.trim() ? Number(p.pin) : null
  const body = { ...p, pin: Number.isInteger(pin) ? pin : p.pin ? 0 : null }
  const kept = await props.chart.putPoint(body, p.id ? seen : null)
  const stands = () => (point.value && point.value.id === p.id ? of(point.value) : seen)
  if (kept) {
    seen = stands()
    Object.assign(p, seen)
    done('point')
  } else if (bench.conflict.value) {
    // Both were shown: what is sent next is sent upon what stands there.
    await props.chart.fetch()
    seen = stands()
  }
}
</script>

<template>
  <div class="forms">
    <div class="do">
      <ElButton :type="data?.runs.length ? undefined : 'primary'" @click="beginRun">{{ w.newRun }}</ElButton>
      <ElButton v-if="writing" @click="editRun">{{ w.edit }} {{ writing.name }}</ElButton>
      <ElButton @click="form = 'valve'">{{ w.addValve }}</ElButton>
      <ElButton @click="beginPoint">{{ w.newPoint }}</ElButton>
      <ElButton v-if="point" @click="form = 'point'">{{ w.edit }} {{ point.name }}</ElButton>
    </div>
    <form v-if="form === 'run'" class="grid" @submit.prevent="saveRun">
      <Field v-slot="{ id }" :label="w.runName" :wrong="wrong('run', 'name')">
        <ElInput :id="id" v-model="run.name" />
      </Field>
      <Field v-slot="{ id }" :label="w.line" :wrong="wrong('run', 'line')">
        <ElInput :id="id" v-model="run.line" placeholder="224 V" autocomplete="off" autofocus />
      </Field>
      <Field v-slot="{ id }" :label="w.meter" :wrong="wrong('run', 'meter')">
        <ElInput :id="id" v-model="run.meter" autocomplete="off" />
      </Field>
      <ElButton type="primary" native-type="submit">{{ run.id ? w.keep : w.begin }}</ElButton>
    </form>
    <form v-else-if="form === 'valve'" class="grid" @submit.prevent="saveValve">
      <Field v-slot="{ id }" :label="w.valveAt" :wrong="wrong('valve', 'at')">
        <ElInput :id="id" v-model="valve.at" placeholder="V2" autofocus autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.valveType" :wrong="wrong('valve', 'valve')">
        <ElInput :id="id" v-model="valve.valve" placeholder="EF89" autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.board" :wrong="wrong('valve', 'board')" class="wide">
        <ElInput
          :id="id"
          v-model="valve.board"
          placeholder="V1 ECH81, V2 EF89, Q1 AF126"
          autocomplete="off"
        />
      </Field>
      <button
        v-if="data?.from_tray && valve.board !== data.from_tray"
        type="button"
        class="link wide"
        @click="valve.board = data.from_tray"
      >
        {{ w.fromTray }}: {{ data.from_tray }}
      </button>
      <ElButton type="primary" native-type="submit">{{ w.putIn }}</ElButton>
    </form>
    <form v-else-if="form === 'point'" class="grid" @submit.prevent="savePoint">
      <Field v-slot="{ id }" :label="w.pointAt" :wrong="wrong('point', 'at') ?? wrong('point', 'name')">
        <ElInput :id="id" v-model="p.at" placeholder="rail 2" autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.pin" :wrong="wrong('point', 'pin')">
        <ElInput :id="id" v-model="p.pin" inputmode="numeric" autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.sheet" :wrong="wrong('point', 'sheet')">
        <ElInput :id="id" v-model="p.sheet" placeholder="165 V" autofocus autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.fed" :wrong="wrong('point', 'fed_through')">
        <ElInput :id="id" v-model="p.fed_through" placeholder="220 kΩ" autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.valveType" :wrong="wrong('point', 'valve')">
        <ElInput :id="id" v-model="p.valve" autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.pair" :wrong="wrong('point', 'pair')">
        <ElInput :id="id" v-model="p.pair" list="points" autocomplete="off" />
      </Field>
      <Field v-slot="{ id }" :label="w.noteField" :wrong="wrong('point', 'note')" class="wide">
        <ElInput :id="id" v-model="p.note" autocomplete="off" />
      </Field>
      <ElCheckbox v-model="p.heater" :label="w.heater" />
      <ElCheckbox v-model="p.steady" :label="w.steady" class="wide" />
      <datalist id="points">
        <option v-for="x in data?.points ?? []" :key="x.id" :value="x.name" />
      </datalist>
      <ElButton type="primary" native-type="submit">{{ p.id ? w.keepPoint : w.addPoint }}</ElButton>
      <ElPopconfirm v-if="p.id" :title="w.removeAsk" width="260" @confirm="chart.removePoint(p.id)">
        <template #reference
          ><ElButton text>{{ w.remove }}</ElButton></template
        >
      </ElPopconfirm>
    </form>
    <p v-if="general" class="problem" role="alert">{{ general }}</p>
  </div>
</template>

<style scoped>
.do {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s6);
  margin: var(--s8) 0;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: var(--s8) var(--s10);
  align-items: end;
}
.wide {
  grid-column: span 2;
}
</style>
