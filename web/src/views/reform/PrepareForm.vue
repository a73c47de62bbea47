<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import { api, newKey, Problem, told, type OfPart, type PlanAnswer, type PlanQuestion } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import Field from '../../components/Field.vue'
import { useTyped } from '../../components/useTyped'
import ReformChart from '../../drawing/ReformChart.vue'
import { spanOf, when } from '../../format/time'
import { words } from '../../words/en'

/** A part is prepared for reforming: what is known of it, the supply, and the plan that follows. */
const props = defineProps<{ part: string }>()
const emit = defineEmits<{ made: [run: string] }>()
const w = words.reform.form
const { typed, wrong, read } = useTyped()
const known = ref<OfPart | null>(null)
const plan = ref<PlanAnswer | null>(null)
const problem = ref<Problem | null>(null)
// Nobody says so by leaving a tick that was there.
const polarity = ref(false)
const way = ref<'guided' | 'simulated bench'>('simulated bench')
const clip = ref<keyof typeof w.clips>('tired')
const section = ref('')
const run = newKey()
const busy = ref(false)
const FIELDS = [
  { name: 'capacitance', label: w.capacitance, quantity: 'capacitance' },
  { name: 'rated', label: w.rated, quantity: 'voltage' },
  { name: 'working', label: w.working, quantity: 'voltage' },
  { name: 'idle_years', label: w.idle, quantity: 'ratio' },
] as const
const SUPPLY = [
  { name: 'supply.voltage', label: w.voltage, quantity: 'voltage' },
  { name: 'supply.series', label: w.series, quantity: 'resistance' },
  { name: 'supply.series_power', label: w.power, quantity: 'power' },
  { name: 'supply.current_limit', label: w.limit, quantity: 'current' },
] as const

async function load() {
  try {
    const got = await told(api.GET('/api/parts/{id}/reform', { params: { path: { id: props.part } } }))
    known.value = got
    for (const f of FIELDS) typed[f.name] = String(got[f.name] ?? '')
    SUPPLY.forEach((f, n) => (typed[f.name] = got.supply[n] ?? ''))
    if (got.sections[0]) pick(got.sections[0].name)
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e
  }
}
void load()

async function question(): Promise<PlanQuestion | null> {
  const values = await read([...FIELDS, ...SUPPLY])
  const of = (name: string) => values?.[name]?.value ?? null
  const [capacitance, rated, voltage] = [of('capacitance'), of('rated'), of('supply.voltage')]
  if (capacitance == null || rated == null || voltage == null) return null
  return {
    capacitance,
    rated,
    working: of('working'),
    idle_years: of('idle_years'),
    part_id: props.part,
    section: section.value || null,
    supply: {
      voltage,
      series: of('supply.series'),
      series_power: of('supply.series_power'),
      current_limit: of('supply.current_limit'),
    },
    polarity_known: polarity.value,
    vented: known.value?.vented ?? false,
  }
}
/** One section of a can: its own capacitance and rating. */
function pick(name: string) {
  const s = known.value?.sections.find((s) => s.name === name)
  if (!s) return
  section.value = s.name
  typed.capacitance = s.capacitance
  if (s.rated) typed.rated = s.rated
}
let asked = 0
async function compute() {
  const mine = ++asked
  try {
    const body = await question()
    const got = body && (await told(api.POST('/api/reform/plan', { body })))
    if (mine !== asked) return
    plan.value = got
    problem.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    if (mine !== asked) return
    plan.value = null
    problem.value = e
  }
}
const soon = useDebounceFn(compute, 200)
watch([typed, polarity, section], () => void soon(), { deep: true })

async function put() {
  busy.value = true
  try {
    const body = await question()
    if (!body) return
    await told(
      api.POST('/api/reform/runs', {
        body: {
          id: run,
          part_id: props.part,
          plan: body,
          way: way.value,
          clip: way.value === 'guided' ? null : clip.value,
          speed: way.value === 'guided' ? null : 60,
          seed: null,
          faults: [],
        },
      }),
    )
    emit('made', run)
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e
  } finally {
    busy.value = false
  }
}
const at = (field: string) =>
  wrong.value[field] ?? (problem.value?.field === field ? problem.value.detail : null)
const elsewhere = computed(() => {
  const p = problem.value
  const named: string[] = [...FIELDS, ...SUPPLY].map((f) => f.name)
  return p && ![...named, 'section'].includes(p.field ?? '') ? p.detail : null
})
</script>

<template>
  <form class="prepare" @submit.prevent="put">
    <div class="ask">
      <h1>{{ known ? `${known.part} · ${known.what}` : words.reform.loading }}</h1>
      <fieldset v-if="known?.sections.length" class="chips sections">
        <legend>{{ w.sections }}</legend>
        <label v-for="s in known.sections" :key="s.name" :class="{ on: section === s.name }">
          <input
            type="radio"
            name="section"
            class="sr"
            :checked="section === s.name"
            @change="pick(s.name)"
          />
          {{ s.name }} · {{ s.capacitance }}
        </label>
      </fieldset>
      <fieldset>
        <legend>{{ w.part }}</legend>
        <Field
          v-for="f in FIELDS"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="at(f.name)"
        >
          <ElInput :id="id" v-model="typed[f.name]" :aria-describedby="described" autocomplete="off" />
        </Field>
        <Field v-slot="{ id, described }" :label="w.section" :wrong="at('section')">
          <ElInput
            :id="id"
            v-model="section"
            maxlength="12"
            :aria-describedby="described"
            autocomplete="off"
          />
        </Field>
      </fieldset>
      <label class="tick"><input v-model="polarity" type="checkbox" /> {{ w.polarity }}</label>
      <fieldset>
        <legend>{{ w.supply }}</legend>
        <Field
          v-for="f in SUPPLY"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="at(f.name)"
        >
          <ElInput :id="id" v-model="typed[f.name]" :aria-describedby="described" autocomplete="off" />
        </Field>
      </fieldset>
      <fieldset class="ways">
        <legend>{{ w.way }}</legend>
        <label class="tick">
          <input v-model="way" type="radio" name="way" value="simulated bench" />
          {{ words.reform.simulated }}
        </label>
        <label class="tick">
          <input v-model="way" type="radio" name="way" value="guided" /> {{ words.reform.guided }}
        </label>
        <p class="why">{{ way === 'guided' ? words.reform.guidedWhy : words.reform.simulatedWhy }}</p>
        <Field v-if="way !== 'guided'" v-slot="{ id }" :label="w.clip">
          <select :id="id" v-model="clip">
            <option v-for="(label, name) in w.clips" :key="name" :value="name">{{ label }}</option>
          </select>
        </Field>
      </fieldset>
    </div>
    <div class="answer" aria-live="polite">
      <p v-if="elsewhere" class="wrong" role="alert">{{ elsewhere }}</p>
      <p v-else-if="!plan" class="empty">{{ w.fill }}</p>
      <template v-if="plan">
        <h2>{{ words.reform.plan }}</h2>
        <p class="takes">
          <template v-if="plan.expected_s != null">
            {{ w.takes }} <b class="num">{{ spanOf(plan.expected_s) }}</b>
          </template>
          <template v-else>{{ w.never }}</template>
        </p>
        <ul class="lines">
          <li v-for="l in plan.lines" :key="l">{{ l }}</li>
        </ul>
        <CautionList class="cautions" :cautions="plan.cautions" />
        <button class="put" :disabled="busy">{{ w.put }}</button>
        <p class="source">{{ w.source }}: {{ plan.limits.source }}</p>
      </template>
      <template v-if="known?.runs.length && plan">
        <h2>{{ w.past }}</h2>
        <p v-for="r in known.runs" :key="r.id" class="past">{{ when(r.at) }} · {{ r.ended }}</p>
        <div class="chart">
          <ReformChart
            :samples="known.runs[0]?.curve.samples ?? []"
            :earlier="known.runs.slice(1).map((r) => r.curve.samples)"
            :aim="plan.aim"
            :limit="plan.limits.decides"
            :peak="plan.peak_current"
            :expected="0"
          />
        </div>
      </template>
    </div>
  </form>
</template>

<style scoped>
.prepare {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  min-height: 0;
}
.ask,
.answer {
  padding: 14px 18px;
  overflow-y: auto;
  min-width: 0;
}
.ask {
  border-right: 1px solid var(--edge);
}
h1 {
  font: 600 19px/1.3 var(--title);
  margin: 0 0 8px;
}
h2 {
  font: 600 16px/1.6 var(--title);
}
fieldset {
  border: 0;
  margin: 0 0 10px;
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
}
legend {
  font: 600 14px/1.8 var(--title);
  padding: 0;
}
.ways {
  grid-template-columns: auto 1fr;
  gap: 0 18px;
}
.why {
  grid-column: 1 / -1;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 40px;
}
.tick input {
  width: 18px;
  height: 18px;
  accent-color: var(--lamp);
}
.why,
.source {
  color: var(--muted);
  font-size: 13px;
}
select {
  min-height: 40px;
  padding: 0 8px;
  background: var(--panel-low);
  color: var(--light);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  font: inherit;
}
.takes {
  font-size: 16px;
  margin-bottom: 6px;
}
.takes b {
  font-size: 24px;
  color: var(--numeral);
}
.lines li {
  padding: 5px 0;
  border-top: 1px solid var(--edge);
}
.cautions {
  margin: 10px 0;
}
.put {
  min-height: 46px;
  padding: 8px 22px;
  border-radius: 9px;
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
  margin-bottom: 10px;
}
.wrong {
  color: var(--replace);
  font-size: 16px;
}
.empty {
  color: var(--muted);
  padding: 40px 10px;
}
.past {
  font-size: 13.5px;
}
.chart {
  height: 240px;
}
@media (max-width: 1100px) {
  .prepare {
    grid-template-columns: minmax(0, 1fr);
    overflow-y: auto;
  }
  .ask,
  .answer {
    overflow: visible;
  }
}
</style>
