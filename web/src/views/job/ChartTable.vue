<script setup lang="ts">
import { nextTick, ref } from 'vue'
import type { ChartCell } from '../../api/client'
import StatusMark from '../../drawing/StatusMark.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PinParts from './PinParts.vue'
import type { UseChart } from './useChart'

/** Points in pin order; in the column that is read now each line takes a number, and Enter goes on. */
const props = defineProps<{ chart: UseChart }>()
const w = words.job.chart
const { data, left, right, selected, writing, typed, type, refused, write, points, hangs, heaters, folded } =
  props.chart
const bench = useBench()
const body = ref<HTMLElement>()

const cell = (c: ChartCell | null | undefined) =>
  c ? `${w.status[c.status]}${c.deviation_text ? `, ${c.deviation_text}` : ''}` : ''
const isWriting = (side: 'before' | 'after') =>
  writing.value !== null && writing.value.id === (side === 'after' ? data.value?.after : data.value?.before)
function inputOf(id: string) {
  return body.value?.querySelector<HTMLInputElement>(`[data-point="${id}"]`) ?? null
}
function focus() {
  const input = inputOf(selected.value ?? '')
  input?.focus()
  input?.select()
}
/** A digit that was typed beside the fields begins the reading of the point in hand. */
function begin(digit: string) {
  if (!writing.value || !selected.value) return false
  type(selected.value, digit)
  void nextTick(() => inputOf(selected.value ?? '')?.focus())
  return true
}
defineExpose({ focus, begin })
function step(by: number) {
  const all = points.value
  const at = all.findIndex((p) => p.id === selected.value)
  const next = all[at + by]
  if (!next) return
  selected.value = next.id
  void nextTick(focus)
}
function enter(id: string) {
  write(id)
  step(1)
}
const shown = (id: string, c: ChartCell | null | undefined) => typed.value.get(id) ?? c?.volts.text ?? ''
</script>

<template>
  <div class="scroll">
    <table ref="body">
      <thead>
        <tr>
          <th>{{ w.point }}</th>
          <th class="r">{{ w.sheet }}</th>
          <th class="r">{{ w.expected }}</th>
          <th
            v-for="side in data?.after ? (['before', 'after'] as const) : (['before'] as const)"
            :key="side"
          >
            <ElSelect
              v-if="data?.runs.length"
              :model-value="(side === 'after' ? data?.after : data?.before) ?? ''"
              :aria-label="w[side]"
              @update:model-value="(id: string) => (side === 'after' ? (right = id) : (left = id))"
            >
              <ElOption
                v-for="r in data?.runs ?? []"
                :key="r.id"
                :value="r.id"
                :label="r.line ? `${r.name}, ${r.line.text}` : r.name"
              />
            </ElSelect>
          </th>
          <th v-if="data?.after" class="r">{{ w.change }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="p in points"
          :key="p.id"
          :class="{ on: p.id === selected }"
          :aria-selected="p.id === selected"
          @click="selected = p.id"
        >
          <td>
            <b>{{ p.name }}</b> <span class="note">{{ p.note || p.role }}</span>
            <PinParts
              :parts="hangs.get(p.id) ?? []"
              @open="(part) => bench.go({ part: part.name, step: null })"
            />
          </td>
          <td class="num r">{{ p.sheet?.text ?? '' }}</td>
          <td class="num r soft">{{ p.expected?.text ?? '' }}</td>
          <template
            v-for="side in data?.after ? (['before', 'after'] as const) : (['before'] as const)"
            :key="side"
          >
            <td class="cell" :title="p[side]?.because.join('; ')">
              <input
                v-if="isWriting(side)"
                :value="shown(p.id, p[side])"
                class="num"
                :data-point="p.id"
                :aria-label="`${p.name}, ${w.write}`"
                inputmode="decimal"
                autocomplete="off"
                @input="type(p.id, ($event.target as HTMLInputElement).value)"
                @focus="selected = p.id"
                @blur="write(p.id)"
                @keydown.enter.prevent="enter(p.id)"
                @keydown.down.prevent="step(1)"
                @keydown.up.prevent="step(-1)"
              />
              <b v-else class="num">{{ p[side]?.volts.text ?? '' }}</b>
              <span v-if="p[side]" class="stand" :class="p[side].status.replaceAll(' ', '-')">
                <StatusMark :status="p[side].status" :label="cell(p[side])" />
                <span class="num">{{ p[side].deviation_text ?? '' }}</span>
              </span>
              <span v-if="p[side]?.doubt" class="doubt" role="status">{{ p[side]?.doubt }}</span>
              <span v-if="isWriting(side) && refused.get(p.id)" class="problem" role="alert">{{
                refused.get(p.id)
              }}</span>
            </td>
          </template>
          <td v-if="data?.after" class="num r">{{ p.change ?? '' }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="folded" class="link fold" :aria-expanded="heaters" @click="heaters = !heaters">
      {{ heaters ? words.job.sockets.fold : words.job.sockets.unfold(folded) }}
    </button>
  </div>
</template>

<style scoped>
.doubt {
  display: block;
  color: var(--watch);
  font-size: var(--t-small);
  white-space: normal;
}
.fold {
  min-height: 40px;
  color: var(--muted);
}
.scroll {
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font: 500 var(--t-small) var(--text);
  color: var(--muted);
  text-align: left;
  padding: 0 var(--s6) var(--s4);
}
.r {
  text-align: right;
}
td {
  border-top: 1px solid var(--edge);
  padding: 1px var(--s6);
  height: 43px;
  font-size: var(--t-lead);
}
.soft {
  color: var(--muted);
}
.on td {
  background: var(--baize-lit);
}
.on td:first-child {
  box-shadow: inset 4px 0 var(--lamp);
}
td:first-child b {
  display: inline-block;
  min-width: 74px;
}
.cell {
  white-space: nowrap;
}
.cell input,
.cell b {
  display: inline-block;
  width: 88px;
  font: 600 var(--t-large) var(--num);
  text-align: right;
}
.cell input {
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 6px;
  padding: var(--s4) var(--s8);
  min-height: 40px;
}
.stand {
  margin-left: var(--s8);
  font-size: var(--t-note);
  display: inline-flex;
  gap: var(--s4);
  align-items: center;
  white-space: nowrap;
}
.right {
  color: var(--keep);
}
.strays {
  color: var(--watch);
}
.low,
.high,
.dead,
.wrong {
  color: var(--replace);
}
.problem {
  display: block;
  color: var(--replace);
  font-size: var(--t-small);
}
</style>
