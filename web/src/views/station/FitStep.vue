<script setup lang="ts">
import { computed, nextTick, reactive, ref, watch } from 'vue'
import { api, Problem, told, type Choice, type Part, type Substitutes } from '../../api/client'
import Field from '../../components/Field.vue'
import { useDraft } from '../../components/useDraft'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import ChoiceCard from './ChoiceCard.vue'
import OpenChange from './OpenChange.vue'
import PartTitle from './PartTitle.vue'
import PlaceFacts from './PlaceFacts.vue'
import { useSending } from './useSending'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { problem, busy, wrong, send } = useSending(bench)

const answer = ref<Substitutes | null>(null)
const failure = ref<Problem | null>(null)
/** Which of the choices; −1 is something else, typed by hand. */
const picked = ref(0)
const touched = ref(false)
const form = reactive({ description: '', value: '', tolerance: '', watts: '', volts: '', type_number: '' })
const measured = useDraft(`${props.part.id}:measured`, 0)
const test = useDraft(`${props.part.id}:test`, 0)
const bag = useDraft(`${props.part.id}:bag`, 0)
const over = ref('')
/** Which change is to be proven first; the question stays while its answer is typed. */
const asked = ref<string | null>(null)
const choice = computed<Choice | null>(() => answer.value?.choices[picked.value] ?? null)
const families = computed(
  () => bench.workshop.value?.words.families.find((f) => f.kind === props.part.kind)?.families ?? [],
)
const family = ref<Choice['family']>(null)
/** A network that was looked for in the tool, for this part. */
const handed = ref(bench.handed.value?.part === props.part.id ? bench.handed.value : null)
bench.handed.value = null
if (handed.value) {
  picked.value = -1
  touched.value = true
  form.description = handed.value.description
  form.value = handed.value.value
  form.type_number = handed.value.type_number ?? ''
  family.value = handed.value.family
}
const measurable = computed(
  () => !['lamp', 'integrated circuit'].includes(choice.value?.kind ?? props.part.kind),
)
const typeOnly = computed(() => ['transistor', 'integrated circuit'].includes(props.part.kind))
const valued = computed(() => props.part.kind !== 'diode' && props.part.kind !== 'coil' && !typeOnly.value)

function pick(at: number) {
  picked.value = at
  const c = answer.value?.choices[at]
  if (!c) return
  form.description = c.description
  form.value = c.entry.value
  form.tolerance = c.entry.tolerance
  form.watts = c.entry.watts
  form.volts = c.entry.volts
  form.type_number = c.entry.type_number
  family.value = c.family
}

async function look() {
  try {
    const at = { params: { path: { id: props.part.id } } }
    answer.value = await told(api.GET('/api/parts/{id}/substitutes', at))
    failure.value = null
    if (!touched.value) pick(answer.value.choices.length ? 0 : -1)
    else if (picked.value >= answer.value.choices.length) pick(0)
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    if (!e.away) failure.value = e
  }
}
watch([() => props.part.version, () => bench.connected.value], look, { immediate: true })

async function fit() {
  const c = choice.value
  const pieces =
    c?.pieces.map((p) => ({ lot: p.lot, description: p.description })) ??
    (picked.value === -1 ? (handed.value?.pieces ?? []) : [])
  const content = {
    ...form,
    description: form.description.slice(0, 200),
    kind: c?.kind ?? props.part.kind,
    family: family.value,
    measured: measurable.value ? measured.value : '',
    test: test.value,
    bag: bag.value,
    over_open: over.value,
    pieces,
    version: props.part.version,
  }
  const done = await send(content, ({ key, confirmed }) =>
    told(
      api.POST('/api/parts/{id}/fittings', {
        params: { path: { id: props.part.id } },
        body: { ...content, key, confirmed },
      }),
    ),
  )
  asked.value = done ? null : (wrong('over_open') ?? asked.value)
  if (!done) {
    // What is missing is where the hand goes next; a drawer that is empty now is looked into again.
    if (problem.value?.field === 'test') testField.value?.focus()
    else if (problem.value?.field === 'measured') measuredField.value?.focus()
    else if (problem.value?.field === 'over_open')
      void nextTick(() => document.querySelector<HTMLInputElement>('[data-test=over]')?.focus())
    else void look()
    return
  }
  measured.value = ''
  test.value = ''
  bag.value = ''
  over.value = ''
  handed.value = null
  bench.go({ step: 'prove' })
}
const left = computed(() => {
  const d = props.part.decision
  return d?.stands === true && (d.decided === 'keep' || d.decided === 'watch')
})
const measuredField = ref<HTMLInputElement>()
const testField = ref<HTMLInputElement>()
function choose(at: number) {
  touched.value = true
  pick(at)
  if (at < 0) void nextTick(() => document.querySelector<HTMLInputElement>('.else input')?.focus())
}
/** What comes from a drawer is fitted at once; what was bought for this is measured first, if it can be. */
function main() {
  if (!answer.value && !failure.value) return
  const field = measuredField.value
  const measure =
    choice.value?.from !== 'drawers' && measured.value === '' && document.activeElement !== field
  if (measure && field) field.focus()
  else void fit()
}
defineExpose({ main, otherwise: () => measuredField.value?.focus() })
</script>

<template>
  <form @submit.prevent="fit">
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="left" class="left">{{ words.fit.keptCaution }}</p>
      <PlaceFacts v-if="answer" :part="part" :facts="answer.facts" />
      <p v-if="failure" class="failure" role="alert">{{ failure.detail }}</p>
      <p v-else-if="!answer" class="note" role="status">{{ words.fit.look }}</p>
      <template v-else>
        <ul v-if="answer.choices.length" class="choices" :aria-label="words.fit.choices">
          <li v-for="(c, i) in answer.choices" :key="c.description + c.from">
            <ChoiceCard :choice="c" :picked="picked === i" @pick="choose(i)" />
          </li>
        </ul>
        <p v-else class="note">{{ words.fit.nothing }}</p>
        <p v-for="a in answer.advice" :key="a.text" class="advice" :title="a.source">{{ a.text }}</p>
        <p class="tools">
          <button
            v-if="part.kind === 'diode' || part.position === 'reservoir' || part.kind === 'coil'"
            type="button"
            class="link"
            @click="bench.openTool('supply', part.kind === 'coil' ? 'field-coil' : 'rectifier')"
          >
            {{ part.kind === 'coil' ? words.supply.sheets['field-coil'] : words.supply.sheets.rectifier }}
          </button>
          <button
            v-if="part.kind === 'resistor' || part.kind === 'capacitor'"
            type="button"
            class="link"
            @click="bench.openTool('networks')"
          >
            {{ words.networks.open }}
          </button>
          <button
            v-if="part.kind === 'transistor' || part.kind === 'diode' || part.kind === 'integrated circuit'"
            type="button"
            class="link"
            @click="bench.openTool('transistors', 'equivalents')"
          >
            {{ words.transistor.station.typeAt }}
          </button>
          <button type="button" class="link" :aria-pressed="picked === -1" @click="choose(-1)">
            {{ words.fit.other }}
          </button>
        </p>
      </template>
      <div v-if="picked === -1" class="grid else">
        <Field v-slot="{ id }" class="wide" :label="words.fit.entry" :wrong="wrong('description')">
          <ElInput :id="id" v-model="form.description" autocomplete="off" />
        </Field>
        <Field v-if="valued" v-slot="{ id }" :label="words.fit.value" :wrong="wrong('value')">
          <ElInput :id="id" v-model="form.value" autocomplete="off" />
        </Field>
        <Field
          v-if="typeOnly"
          v-slot="{ id }"
          :label="words.transistor.station.typeNumber"
          :wrong="wrong('type_number')"
        >
          <ElInput :id="id" v-model="form.type_number" autocomplete="off" />
        </Field>
        <Field v-if="!typeOnly" v-slot="{ id }" :label="words.fit.tolerance" :wrong="wrong('tolerance')">
          <ElInput :id="id" v-model="form.tolerance" autocomplete="off" />
        </Field>
        <Field
          v-if="part.kind === 'resistor'"
          v-slot="{ id }"
          :label="words.fit.watts"
          :wrong="wrong('watts')"
        >
          <ElInput :id="id" v-model="form.watts" autocomplete="off" />
        </Field>
        <Field v-else-if="!typeOnly" v-slot="{ id }" :label="words.fit.volts" :wrong="wrong('volts')">
          <ElInput :id="id" v-model="form.volts" autocomplete="off" />
        </Field>
        <Field v-if="families.length" v-slot="{ id }" :label="words.read.family" :wrong="wrong('family')">
          <ElSelect :id="id" v-model="family" clearable>
            <ElOption v-for="f in families" :key="f" :value="f" :label="f" />
          </ElSelect>
        </Field>
      </div>
      <details v-if="answer?.refused.length" class="refused" open>
        <summary>{{ words.fit.refused }}</summary>
        <ul>
          <li v-for="r in answer.refused" :key="r.description + r.because">
            <span class="what">
              <s>{{ r.description }}</s>
              <span v-if="r.place" class="lies">{{ r.place }}</span>
            </span>
            <span>{{ r.because }}</span>
          </li>
        </ul>
      </details>
    </div>
    <OpenChange v-if="asked" v-model="over" :asked="asked" />
    <div class="entry">
      <p v-if="wrong('description') && picked !== -1" class="wrong" role="alert">
        {{ wrong('description') }}
      </p>
      <Field v-if="answer || failure" v-slot="{ id }" :label="words.job.changes.bag" :wrong="wrong('bag')">
        <input :id="id" v-model="bag" class="big-entry bag" placeholder="bag 7" autocomplete="off" />
      </Field>
      <Field
        v-if="choice?.needs_test && choice.kind !== 'resistor'"
        v-slot="{ id, described }"
        :label="words.fit.test"
        :wrong="wrong('test')"
      >
        <input
          :id="id"
          ref="testField"
          v-model="test"
          class="big-entry"
          :class="{ 'wrong-entry': wrong('test') }"
          :placeholder="words.fit.testExamples[part.kind] ?? words.fit.testExample"
          :aria-describedby="described"
          autocomplete="off"
        />
      </Field>
      <Field
        v-if="measurable && (answer || failure)"
        v-slot="{ id, described }"
        :label="part.kind === 'transistor' ? words.fit.gain : words.fit.measured"
        :wrong="wrong('measured')"
      >
        <input
          :id="id"
          ref="measuredField"
          v-model="measured"
          class="big-entry"
          :class="{ 'wrong-entry': wrong('measured') }"
          :placeholder="choice?.pieces[0]?.measured ?? undefined"
          :aria-describedby="described"
          inputmode="decimal"
          autocomplete="off"
        />
      </Field>
    </div>
    <div class="foot">
      <ElButton type="primary" native-type="submit" :loading="busy" :disabled="!answer">
        {{ problem?.ask ? words.fit.anyway : choice?.from === 'drawers' ? words.fit.take : words.fit.fitted }}
        <kbd>Enter</kbd>
      </ElButton>
      <span v-if="choice?.from === 'drawers'" class="note">{{ words.fit.takes }}</span>
    </div>
  </form>
</template>

<style scoped>
form.step {
  grid-template-rows: minmax(0, 1fr) auto auto;
}
.left {
  color: var(--watch);
  margin-bottom: 6px;
}
.failure {
  color: var(--replace);
  padding: 14px 0;
}
.choices li {
  margin-bottom: 6px;
}
.advice {
  border-left: 3px solid var(--watch);
  padding: 2px 0 2px 10px;
  margin: 6px 0;
  font-size: 13.5px;
}
.tools {
  display: flex;
  gap: 4px 18px;
  flex-wrap: wrap;
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 36px;
  font-size: 13.5px;
}
.link[aria-pressed='true'] {
  color: var(--numeral);
}
.refused {
  margin-top: 8px;
  font-size: 13px;
  color: var(--muted);
}
.refused summary {
  font: 600 15px var(--title);
  cursor: pointer;
  min-height: 32px;
}
.refused li {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 12px;
  padding: 5px 0;
  border-top: 1px solid var(--edge);
}
.lies {
  display: block;
  color: var(--light);
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
  margin: 8px 0;
}
.wide {
  grid-column: 1 / -1;
}
.entry {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 12px;
  padding: 8px 16px 0;
}
.entry .wrong {
  color: var(--replace);
  font-size: 13.5px;
}
.entry .bag {
  font-family: var(--text);
}
.entry .big-entry {
  font-size: 18px;
  padding: 6px 12px;
}
</style>
