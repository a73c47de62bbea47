<script setup lang="ts">
import { api, told, type Part } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import Field from '../../components/Field.vue'
import SheetPicture from '../../drawing/SheetPicture.vue'
import WaveDrawing from '../../drawing/WaveDrawing.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import type { PickSpec, Sheet } from './sheets'
import { useSheet } from './useSheet'

const props = defineProps<{ sheet: Sheet; part: Part | null }>()
const bench = useBench()
const { typed, picked, rows, result, taken, unkept, addRow, removeRow, problemAt, elsewhere, wrong } =
  useSheet(props.sheet, props.part, () => bench.ticket.value)
const { busy, problem, send } = useSending(bench)
/** What was found out here counts for the whole set from now on. */
async function keep() {
  const now = bench.ticket.value
  if (!now) return
  const facts = unkept.value
  await send(facts, () =>
    told(
      api.PATCH('/api/tickets/{id}', {
        params: { path: { id: now.id } },
        body: { version: now.version, set: { facts } },
      }),
    ),
  )
}
const from = [
  taken.value.part.length ? props.part?.name : '',
  taken.value.set.length ? words.supply.ofSet : '',
]
  .filter(Boolean)
  .join(words.supply.and)
function options(p: PickSpec) {
  const more = p.rectifiers ? (bench.workshop.value?.words.rectifiers ?? []) : []
  return [
    ...Object.entries(p.options).map(([value, label]) => ({ value, label })),
    ...more.map((d) => ({ value: d.type, label: `${d.type}, ${d.stands}` })),
  ]
}
</script>

<template>
  <div class="sheet">
    <form class="ask" @submit.prevent>
      <SheetPicture :name="sheet.name" :circuit="picked.circuit" />
      <p v-if="from" class="note">{{ words.supply.from }} {{ from }}</p>
      <div class="fields">
        <Field v-for="p in sheet.picks ?? []" :key="p.name" v-slot="{ id }" :label="p.label">
          <ElSelect :id="id" v-model="picked[p.name]" :filterable="p.rectifiers">
            <ElOption v-for="o in options(p)" :key="o.value" :value="o.value" :label="o.label" />
          </ElSelect>
        </Field>
        <Field
          v-for="f in sheet.fields"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="problemAt(f.name)"
        >
          <ElInput :id="id" v-model="typed[f.name]" :aria-describedby="described" autocomplete="off" />
        </Field>
        <Field
          v-for="t in sheet.texts ?? []"
          :key="t.name"
          v-slot="{ id, described }"
          :label="t.label"
          :wrong="problemAt(t.name)"
        >
          <ElInput :id="id" v-model="picked[t.name]" :aria-describedby="described" autocomplete="off" />
        </Field>
      </div>
      <template v-if="sheet.rows">
        <div
          v-for="r in rows"
          :key="r.id"
          class="row"
          :style="{
            gridTemplateColumns: `${sheet.rows.named ? 'minmax(80px,1fr) ' : ''}repeat(${sheet.rows.fields.length}, 1fr) ${sheet.rows.flag ? 'auto ' : ''}40px`,
          }"
        >
          <Field v-if="sheet.rows.named" v-slot="{ id }" :label="words.workshop.name">
            <ElInput :id="id" v-model="r.name" autocomplete="off" />
          </Field>
          <Field
            v-for="f in sheet.rows.fields"
            :key="f.name"
            v-slot="{ id }"
            :label="f.label"
            :wrong="wrong[`row${r.id}.${f.name}`]"
          >
            <ElInput :id="id" v-model="typed[`row${r.id}.${f.name}`]" autocomplete="off" />
          </Field>
          <label v-if="sheet.rows.flag" class="flag"
            ><input v-model="r.flag" type="checkbox" />{{ sheet.rows.flag }}</label
          >
          <button type="button" class="out" :aria-label="words.supply.removeRow" @click="removeRow(r.id)">
            ✕
          </button>
        </div>
        <ElButton @click="addRow()">{{ words.supply.addRow }}</ElButton>
      </template>
      <p v-if="problem" class="wrong" role="alert">{{ problem.detail }}</p>
      <ElButton v-if="Object.keys(unkept).length" :loading="busy" @click="keep">{{
        words.supply.keepForSet
      }}</ElButton>
    </form>
    <div class="answer" aria-live="polite" tabindex="0">
      <p v-if="elsewhere" class="wrong" role="alert">{{ elsewhere }}</p>
      <p v-else-if="!result" class="empty">{{ words.supply.idle }}</p>
      <template v-else>
        <dl class="shown" :class="{ many: result.shown.length > 5 }">
          <template v-for="(s, i) in result.shown" :key="s.label">
            <dt>{{ s.label }}</dt>
            <dd class="num" :class="{ first: i === 0 }">{{ s.text }}</dd>
          </template>
        </dl>
        <CautionList v-if="result.warnings?.length" :cautions="result.warnings" role="alert" />
        <p v-if="result.note" class="say" :class="result.note.tone">{{ result.note.text }}</p>
        <table v-if="result.table?.rows.length">
          <thead>
            <tr>
              <component :is="h ? 'th' : 'td'" v-for="(h, i) in result.table.head" :key="i">{{
                h
              }}</component>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, i) in result.table.rows" :key="i" :class="r.tone">
              <td v-for="(c, j) in r.cells" :key="j" :class="{ num: j > 0 }">
                {{ c }}<b v-if="r.tone === 'keep' && j === 0"> · {{ words.supply.proposed }}</b>
              </td>
            </tr>
          </tbody>
        </table>
        <WaveDrawing v-if="result.wave" :wave="result.wave" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  min-height: 0;
}
.ask {
  padding: var(--s14) var(--s16);
  border-right: 1px solid var(--edge);
  overflow-y: auto;
  display: grid;
  gap: var(--s12);
  align-content: start;
  justify-items: start;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s10) var(--s14);
  width: 100%;
}
.row {
  display: grid;
  gap: var(--s8);
  width: 100%;
  align-items: end;
}
.out {
  height: 40px;
  text-align: center;
  color: var(--muted);
}
.answer {
  padding: var(--s14) var(--s20);
  overflow-y: auto;
  min-width: 0;
}
.empty {
  color: var(--muted);
  padding: 50px var(--s20);
  text-align: center;
  font-size: var(--t-lead);
}
.wrong {
  color: var(--replace);
}
.shown {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: var(--s2) var(--s16);
  align-items: baseline;
}
/* many numbers stand in two columns below the first */
@media (min-width: 1000px) {
  .shown.many {
    grid-template-columns: max-content 1fr max-content 1fr;
  }
  .many .first {
    grid-column: 2 / -1;
  }
}
dt {
  color: var(--muted);
  font-size: var(--t-note);
}
dd {
  font-size: var(--t-large);
  white-space: normal;
}
dd.first {
  font-size: var(--t-far);
  font-weight: 500;
  color: var(--numeral);
}
.say {
  border-left: 3px solid;
  padding: var(--s2) 0 var(--s2) var(--s12);
  margin: var(--s12) 0;
  font-size: var(--t-lead);
}
table {
  border-collapse: collapse;
  width: 100%;
  margin: var(--s10) 0;
}
th {
  text-align: left;
  font-weight: 400;
  font-size: var(--t-small);
  color: var(--muted);
  padding: var(--s4) var(--s12) var(--s4) 0;
}
td {
  border-top: 1px solid var(--edge);
  padding: var(--s6) var(--s12) var(--s6) 0;
  font-size: var(--t-lead);
  white-space: normal;
}
@media (max-width: 900px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
