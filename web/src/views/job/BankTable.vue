<script setup lang="ts">
import { nextTick, useTemplateRef } from 'vue'
import type { Bank, BankPart } from '../../api/client'
import ChoiceChips from '../../components/ChoiceChips.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { useBanks } from './useBanks'

/** The places of a bank from the high end to the low: what is in each, what it gets, and a field for what it reads. */
const props = defineProps<{ use: ReturnType<typeof useBanks>; bank: Bank }>()
const bench = useBench()
const w = words.job.bank
const { typed, state, measure, wrong } = props.use
const table = useTemplateRef<HTMLElement>('table')

/** Taken: on to the next field, down the members, then down what lies across them. */
async function take(part: BankPart, e: Event) {
  const field = e.target as HTMLInputElement
  const column = (n: number) => [
    ...(table.value?.querySelectorAll<HTMLInputElement>(`input[data-column="${n}"]`) ?? []),
  ]
  const fields = [...column(0), ...column(1)]
  const onward = e.type === 'keydown'
  if (!(await measure(part)) || !onward) return
  await nextTick()
  fields[fields.indexOf(field) + 1]?.focus()
}
const size = (load: number) => `${Math.min(load / 1.25, 1) * 100}%`
</script>

<template>
  <div class="places">
    <ChoiceChips
      v-model="state"
      :label="w.state"
      columns="repeat(2, max-content)"
      :options="[
        { value: 'lifted', label: w.lifted },
        { value: 'out of circuit', label: w.out },
      ]"
    />
    <table ref="table">
      <thead>
        <tr>
          <th>{{ w.part }}</th>
          <th>{{ w.reads }}</th>
          <th v-if="bank.across">{{ w.acrossIt }}</th>
          <th>{{ w.gets }}</th>
          <th>
            <span class="sr">{{ words.tray.verdict }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in bank.places" :key="p.member.id">
          <th scope="row">
            <button type="button" class="link num" @click="bench.select(p.member.name)">
              {{ p.member.name }}
            </button>
          </th>
          <td v-for="(part, i) in p.across ? [p.member, p.across] : [p.member]" :key="part.id">
            <span class="entry">
              <span class="num value" :class="{ open: !part.measured }">{{
                part.measured ? part.value?.text : part.value ? `(${part.value.text})` : w.unknown
              }}</span>
              <input
                v-model="typed[part.id]"
                class="num"
                :data-column="i"
                :aria-label="w.meter(part.name)"
                :placeholder="part.measured ? w.again : w.enter"
                autocomplete="off"
                @keydown.enter.prevent="take(part, $event)"
                @blur="typed[part.id] && take(part, $event)"
              />
              <button v-if="i" type="button" class="link num" @click="bench.select(part.name)">
                {{ part.name }}
              </button>
            </span>
            <span v-if="wrong(part)" class="problem" role="alert">
              {{ wrong(part)?.detail }} <template v-if="wrong(part)?.ask">{{ w.enterAgain }}</template>
            </span>
          </td>
          <td class="gets">
            <span class="num">
              <b>{{ p.volts?.text ?? w.nobody }}</b>
              <template v-if="p.rated">{{ w.of(p.rated.text) }}</template>
            </span>
            <span v-if="p.load !== null && p.load !== undefined" class="bar" aria-hidden="true">
              <i :class="p.call === 'measure again' ? 'again' : p.call" :style="{ width: size(p.load) }"></i>
              <u></u>
            </span>
            <span v-if="p.charging || p.worst" class="note num">{{
              [p.charging && w.charging(p.charging.text), p.worst && w.upTo(p.worst.text)]
                .filter(Boolean)
                .join(' · ')
            }}</span>
          </td>
          <td>
            <VerdictMark :verdict="p.call" /><span class="sr">{{ words.verdict[p.call] }}</span>
          </td>
        </tr>
      </tbody>
    </table>
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
td,
tbody th {
  padding: var(--s2) var(--s10) var(--s2) 0;
  vertical-align: middle;
  text-align: left;
}
.link {
  font-weight: 650;
  min-height: 40px;
  padding: 0 var(--s4);
}
.entry {
  display: flex;
  gap: var(--s8);
  align-items: center;
}
.value {
  min-width: 8.5ch;
  text-align: right;
}
.value.open {
  color: var(--muted);
}
.entry input {
  width: 92px;
  min-height: 36px;
  padding: 0 var(--s8);
  background: var(--well);
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: inherit;
}
.problem {
  display: block;
  max-width: 34ch;
}
.gets {
  min-width: 190px;
}
.bar {
  position: relative;
  display: block;
  height: 7px;
  margin: var(--s4) 0;
  background: var(--well);
  border-radius: 4px;
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--keep);
}
.bar i.watch {
  background: var(--watch);
}
.bar i.again {
  background: var(--muted);
}
.bar i.replace {
  background: var(--replace);
}
/* what it stands: four fifths along */
.bar u {
  position: absolute;
  left: 80%;
  top: 0;
  width: 2px;
  height: 100%;
  background: var(--light);
}
</style>
