<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef } from 'vue'
import { api, told, type Part } from '../../api/client'
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import MeasuredWith from '../../components/MeasuredWith.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PartTitle from './PartTitle.vue'
import ReadingTable from './ReadingTable.vue'
import { useSending } from './useSending'

/** A circuit is measured at its pins, in the set: in probing order, each against what it should show. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const w = words.pins
const { problem, busy, wrong, send } = useSending(bench)
const state = ref<'in circuit' | 'lifted'>('in circuit')
const typed = reactive<Record<number, string>>({})
const other = reactive({ pin: '', volts: '' })
const asked = ref<number | null>(null)
const rows = useTemplateRef<HTMLElement>('rows')
const circuit = computed(() => props.part.circuit ?? null)
const next = computed(() => props.part.judgement?.next.join('; ') ?? '')

async function takeOne(pin: number, text: string, measuredWith = ''): Promise<boolean> {
  asked.value = pin
  const content = { typed: text, pin, state: state.value }
  const done = await send({ ...content, part: props.part.id }, ({ key, confirmed }) =>
    told(
      api.POST('/api/parts/{id}/readings', {
        params: { path: { id: props.part.id } },
        body: { ...content, key, confirmed, hot: false, with: measuredWith },
      }),
    ),
  )
  return done !== undefined
}
/** Taken: on to the next pin. */
async function take(pin: number, e: Event) {
  const text = (typed[pin] ?? '').trim()
  const field = e.target as HTMLInputElement
  const fields = [...(rows.value?.querySelectorAll<HTMLInputElement>('input') ?? [])]
  const at = fields.indexOf(field)
  if (text && !(await takeOne(pin, text))) return
  typed[pin] = ''
  await nextTick()
  fields[at + 1]?.focus()
}
/** The same once it is known with what it was measured. */
async function takeWith(pin: number, measuredWith: string) {
  if (await takeOne(pin, (typed[pin] ?? '').trim(), measuredWith)) typed[pin] = ''
}
async function takeOther(measuredWith = '') {
  const pin = Number(other.pin)
  if (await takeOne(Number.isInteger(pin) ? pin : 0, other.volts, measuredWith)) other.pin = other.volts = ''
}
function main() {
  if (props.part.judgement && props.part.measured) bench.go({ step: 'judge' })
  else rows.value?.querySelector<HTMLInputElement>('input')?.focus()
}
const enter = () => rows.value?.querySelector<HTMLInputElement>('input')?.focus()
defineExpose({ main, enter })
</script>

<template>
  <div>
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="circuit" class="note">
        {{ circuit.job }} · {{ w.fed(circuit.supply)
        }}<template v-if="circuit.note"> · {{ circuit.note }}</template>
      </p>
      <p v-else class="note">{{ w.unknown }}</p>
      <p v-if="next && part.measured" class="next" aria-live="polite">{{ next }}</p>
      <ChoiceChips
        v-model="state"
        :label="w.state"
        columns="repeat(2, max-content)"
        :options="[
          { value: 'in circuit', label: w.asItSits },
          { value: 'lifted', label: w.lifted },
        ]"
      />
      <table v-if="circuit" ref="rows">
        <thead>
          <tr>
            <th>{{ w.pin }}</th>
            <th>{{ w.should }}</th>
            <th>{{ w.shows }}</th>
            <th>
              <span class="sr">{{ w.fits }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in circuit.pins" :key="p.pin" :class="{ off: p.fits === false }" :title="p.hangs">
            <th scope="row">
              <span class="num">{{ p.pin }}</span> {{ p.name }}
            </th>
            <td class="num should">{{ p.should }}</td>
            <td class="num has">
              {{ p.volts?.text
              }}<span v-if="p.lifted" class="note"> ({{ w.liftedShort }} {{ p.lifted.text }})</span>
            </td>
            <td>
              <input
                v-model="typed[p.pin]"
                class="num"
                inputmode="decimal"
                autocomplete="off"
                :aria-label="w.meter(p.pin, p.name)"
                :placeholder="w.volts"
                @keydown.enter.prevent="take(p.pin, $event)"
              />
              <span v-if="asked === p.pin && problem" class="problem" role="alert">{{ problem.detail }}</span>
              <MeasuredWith
                v-if="asked === p.pin && problem?.choices.length"
                :choices="problem.choices"
                @choose="takeWith(p.pin, $event)"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <form v-else ref="rows" class="other" @submit.prevent="takeOther()">
        <Field v-slot="{ id, described }" :label="w.pin" :wrong="wrong('pin')">
          <ElInput :id="id" v-model="other.pin" inputmode="numeric" :aria-describedby="described" />
        </Field>
        <Field v-slot="{ id, described }" :label="w.shows" :wrong="wrong('typed')">
          <ElInput :id="id" v-model="other.volts" autocomplete="off" :aria-describedby="described" />
        </Field>
        <ElButton type="primary" native-type="submit" :loading="busy">{{ words.measure.take }}</ElButton>
        <MeasuredWith v-if="problem?.choices.length" :choices="problem.choices" @choose="takeOther" />
      </form>
      <ReadingTable :part="part" />
    </div>
    <div class="foot">
      <ElButton v-if="part.measured && part.judgement" type="primary" @click="bench.go({ step: 'judge' })">
        {{ words.measure.judge }} <kbd>Enter</kbd>
      </ElButton>
      <span v-else class="note">{{ w.how }}</span>
    </div>
  </div>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: var(--s8);
}
thead th {
  text-align: left;
  font: 500 var(--t-small) var(--text);
  color: var(--muted);
}
tbody tr {
  border-top: 1px solid var(--edge);
}
tbody th {
  text-align: left;
  font-weight: 500;
}
tbody th .num {
  display: inline-block;
  min-width: 2.2ch;
  text-align: right;
  font-weight: 700;
}
td,
tbody th {
  padding: var(--s2) var(--s6) var(--s2) 0;
}
.has {
  font-weight: 650;
  color: var(--numeral);
}
.off .has,
.off th {
  color: var(--replace);
}
td input {
  width: 76px;
  min-height: 36px;
  padding: 0 var(--s8);
  background: var(--well);
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: inherit;
}
.next {
  margin: var(--s6) 0;
  padding: var(--s6) var(--s12);
  border-radius: 8px;
  font-size: var(--t-note);
  background: var(--again-low);
  border-left: 3px solid var(--again);
}
.problem {
  color: var(--replace);
  display: block;
}
.other {
  display: grid;
  grid-template-columns: 90px 1fr auto;
  gap: var(--s10);
  align-items: end;
}
</style>
