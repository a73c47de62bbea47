<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import Field from '../../components/Field.vue'
import OutlineDrawing from '../../drawing/OutlineDrawing.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import GainAndDiode from './GainAndDiode.vue'
import { useDesk } from './useDesk'
import { useIdentify, WAYS } from './useIdentify'

/** Three leads and no print: six readings of a diode range, a drawing to hold the probes to, and what they say. */
const bench = useBench()
const desk = useDesk()
const id = useIdentify()
const { draft, at, found, problem, outline } = id
const w = words.transistor.identify

const typed = ref('')
const entry = ref<HTMLInputElement>()
const way = computed(() => WAYS[at.value] ?? WAYS[0])
watch(at, (now) => (typed.value = draft.value.typed[now] ?? ''), { immediate: true })
const part = computed(() => (bench.part.value?.kind === 'transistor' ? bench.part.value : null))
const kept = ref('')

function take() {
  id.take(typed.value)
  kept.value = ''
  typed.value = draft.value.typed[at.value] ?? ''
  void nextTick(() => entry.value?.select())
}
/** The arrows go over the six ways round, as over the drawn part. */
function arrow(e: KeyboardEvent) {
  const by: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 1, ArrowLeft: -1 }
  const step = by[e.key]
  const field = entry.value
  const sideways = e.key === 'ArrowLeft' || e.key === 'ArrowRight'
  const whole = field && field.selectionStart === 0 && field.selectionEnd === field.value.length
  if (!step || (sideways && typed.value !== '' && !whole)) return
  at.value = (at.value + step + 6) % 6
  e.preventDefault()
  void nextTick(() => field?.select())
}
/** A click on a lead moves the red probe there; on the red one, the black. */
const captions = computed(() => {
  const f = found.value
  if (!f) return []
  const field = f.what === 'jfet' || f.what === 'mosfet'
  return ['1', '2', '3'].map((lead) =>
    lead === f.base
      ? field
        ? w.gate
        : w.base
      : lead === f.collector
        ? field
          ? w.drain
          : w.collector
        : lead === f.emitter
          ? field
            ? w.source
            : w.emitter
          : '',
  )
})
const gainWays = computed(() => {
  const base = found.value?.base
  if (!base || found.value?.what === 'jfet') return []
  const [a, b] = ['1', '2', '3'].filter((l) => l !== base)
  return a && b ? [a + b, b + a] : []
})
const tone = computed(() => {
  const s = found.value?.state
  return s === 'good' ? 'keep' : s === 'leaky' ? 'watch' : 'replace'
})
const canFind = computed(() => Boolean(found.value?.polarity))

function find() {
  const f = found.value
  if (!f?.polarity) return
  const kind = f.what === 'jfet' || f.what === 'mosfet' || f.what === 'darlington' ? f.what : 'bipolar'
  desk.wanted.type = part.value?.type_number ?? ''
  desk.wanted.ratings = {
    kind,
    polarity: f.polarity,
    material: f.material,
    package: outline.value?.package ?? null,
    pinout: f.pinout,
  }
  desk.page.value = 'equivalents'
}
async function keep() {
  const p = part.value
  if (p && (await id.keep(p.id))) kept.value = p.name
}
onMounted(() => entry.value?.focus())
</script>

<template>
  <div class="desk-page page">
    <form class="desk hand" @submit.prevent="take">
      <p class="note">{{ w.intro }}</p>
      <div class="probe">
        <div class="drawn">
          <OutlineDrawing
            v-if="outline"
            :outline="outline"
            :red="Number(way[0]) - 1"
            :black="Number(way[1]) - 1"
            :captions="captions"
          />
          <Field v-slot="{ id: fid }" :label="w.outline">
            <ElSelect :id="fid" v-model="draft.package" :placeholder="outline?.package ?? ''">
              <ElOption v-for="p in id.shown.value" :key="p.package" :value="p.package" :label="p.package">
                {{ p.package }} · <span class="note">{{ p.about }}</span>
              </ElOption>
            </ElSelect>
          </Field>
        </div>
        <div class="six">
          <Field
            v-slot="{ id: fid, described }"
            :label="w.probe(way[0], way[1])"
            :wrong="problem?.field?.startsWith('readings') ? problem.detail : null"
          >
            <input
              :id="fid"
              ref="entry"
              v-model="typed"
              class="big-entry volts"
              :placeholder="w.example"
              :aria-describedby="described"
              autocomplete="off"
              spellcheck="false"
              inputmode="decimal"
              @keydown="arrow"
            />
          </Field>
          <ol>
            <li v-for="([red, black], i) in WAYS" :key="i">
              <button
                type="button"
                :class="{ on: at === i }"
                :aria-current="at === i ? 'true' : undefined"
                @click="((at = i), entry?.focus())"
              >
                <span class="dot red" aria-hidden="true">{{ red }}</span>
                <span class="dot black" aria-hidden="true">{{ black }}</span>
                <span class="sr">{{ w.red }} {{ red }}, {{ w.black }} {{ black }}</span>
                <b class="num">{{
                  draft.typed[i] === null ? '–' : draft.typed[i] ? draft.typed[i] : w.nothing
                }}</b>
              </button>
            </li>
          </ol>
        </div>
      </div>
      <div class="how">
        <Field
          v-slot="{ id: fid }"
          :label="w.celsius"
          :wrong="problem?.field === 'celsius' ? problem.detail : null"
        >
          <ElInput :id="fid" v-model="draft.celsius" placeholder="25" autocomplete="off" />
        </Field>
        <ElCheckbox v-model="draft.inCircuit">{{ w.inCircuit }}</ElCheckbox>
        <ElButton native-type="submit" type="primary">{{ w.swap }} <kbd>Enter</kbd></ElButton>
        <ElButton text @click="(id.clear(), entry?.focus())">{{ w.again }}</ElButton>
      </div>
      <GainAndDiode />
    </form>
    <section class="desk says" aria-live="polite">
      <p
        v-if="problem && !problem.field?.startsWith('readings') && problem.field !== 'celsius'"
        class="problem"
        role="alert"
      >
        {{ problem.detail }}
      </p>
      <p v-if="!found" class="waiting">{{ w.waiting }} {{ id.left.value ? w.left(id.left.value) : '' }}</p>
      <template v-else>
        <h2 :class="tone" data-test="identified">{{ found.summary }}</h2>
        <table v-if="found.base" class="leads">
          <tbody>
            <tr v-for="(name, i) in captions" :key="i">
              <td class="num">{{ i + 1 }}</td>
              <td>
                <b v-if="name">{{ name }}</b><span v-else class="note">{{ w.unknown }}</span>
              </td>
            </tr>
          </tbody>
        </table>
        <fieldset v-if="gainWays.length" class="gains">
          <legend>
            {{ w.gainTitle }} <span class="note">{{ w.gainHint }}</span>
          </legend>
          <Field v-for="g in gainWays" :key="g" v-slot="{ id: fid }" :label="w.gain(g[0] ?? '', g[1] ?? '')">
            <ElInput
              :id="fid"
              :model-value="draft.gains[g] ?? ''"
              inputmode="decimal"
              autocomplete="off"
              @update:model-value="(v: string) => (draft.gains[g] = v)"
            />
          </Field>
        </fieldset>
        <template v-if="found.next.length">
          <h3>{{ w.next }}</h3>
          <ul class="next">
            <li v-for="n in found.next" :key="n">{{ n }}</li>
          </ul>
          <fieldset v-if="found.can_settle.length || draft.further" class="chips further">
            <legend class="note">{{ w.further }}</legend>
            <label
              v-for="f in draft.further && !found.can_settle.includes(draft.further as never)
                ? [draft.further, ...found.can_settle]
                : found.can_settle"
              :key="f"
              :class="{ on: draft.further === f }"
            >
              <input
                type="checkbox"
                class="sr"
                :checked="draft.further === f"
                @change="draft.further = draft.further === f ? '' : f"
              />{{ f }}
            </label>
          </fieldset>
        </template>
        <template v-if="found.or.length">
          <h3>{{ w.or }}</h3>
          <ul>
            <li v-for="o in found.or" :key="o">{{ o }}</li>
          </ul>
        </template>
        <h3>{{ w.why }}</h3>
        <ul class="why">
          <li v-for="b in found.because" :key="b">{{ b }}</li>
        </ul>
        <template v-if="found.in_circuit.length">
          <h3>{{ w.inSet }}</h3>
          <dl class="set">
            <div v-for="p in found.in_circuit" :key="p.resistor">
              <dt class="num">{{ p.resistor }}</dt>
              <dd class="num">{{ p.shows }}</dd>
            </div>
          </dl>
        </template>
      </template>
      <div v-if="found" class="do">
        <ElButton type="primary" :disabled="!canFind" @click="find">{{ w.find }}</ElButton>
        <ElButton v-if="part" :loading="id.saving.value" @click="keep">{{ w.keep(part.name) }}</ElButton>
        <span v-if="kept" role="status" class="keep">
          {{ w.kept(kept) }}
          <button class="link" @click="bench.go({ step: 'judge' })">{{ w.toJudge }}</button>
        </span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 11fr) minmax(0, 10fr);
}
.probe {
  display: grid;
  grid-template-columns: minmax(150px, 240px) minmax(0, 1fr);
  gap: 20px;
  margin: 10px 0;
}
.drawn {
  display: grid;
  gap: 8px;
  align-content: start;
}
.volts {
  font-size: 38px;
  line-height: 1.15;
  color: var(--numeral);
}
.six ol {
  margin-top: 8px;
  display: grid;
  gap: 3px;
}
.six li button {
  width: 100%;
  min-height: 40px;
  display: grid;
  grid-template-columns: 30px 30px 1fr;
  align-items: center;
  gap: 6px;
  padding: 2px 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--strip);
}
.six li .on {
  border-color: var(--lamp);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
.six b {
  text-align: right;
  font-size: 18px;
}
.dot {
  width: 26px;
  height: 26px;
  border-radius: 50%;
  display: grid;
  place-items: center;
  font: 700 13px var(--num);
  color: #fff;
}
.dot.red {
  background: #c8402a;
}
.dot.black {
  background: #141210;
  box-shadow: 0 0 0 1px #cfc6b2;
}
.how {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
}
.how .field {
  width: 96px;
}
.waiting {
  color: var(--muted);
  font-size: 16px;
  padding: 40px 10px;
  text-align: center;
}
.says h2 {
  font: 600 25px/1.25 var(--title);
}
.leads {
  margin: 10px 0 4px;
  border-collapse: collapse;
  font-size: 19px;
}
.leads td {
  padding: 2px 14px 2px 0;
}
.leads .num {
  color: var(--numeral);
  font-weight: 600;
  font-size: 22px;
}
.gains {
  border: 0;
  padding: 0;
  margin: 8px 0 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 12px;
}
.gains legend {
  font: 600 15px var(--title);
  margin-bottom: 4px;
}
.gains legend .note {
  font: 400 13px var(--text);
}
.says li {
  padding: 2px 0;
}
.next li {
  border-left: 3px solid var(--again);
  padding: 3px 10px;
  margin-bottom: 4px;
  background: var(--again-low);
  border-radius: 6px;
}
.further {
  margin-top: 6px;
  grid-template-columns: 1fr 1fr;
}
.why li {
  color: var(--muted);
  font-size: 13.5px;
}
.set {
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
}
.set dt {
  color: var(--muted);
}
.set dd {
  font-size: 16px;
}
.do {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  align-items: center;
  margin-top: 16px;
}
</style>
