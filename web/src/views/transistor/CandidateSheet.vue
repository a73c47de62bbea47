<script setup lang="ts">
import { computed } from 'vue'
import type { EquivalentCandidate, Equivalents } from '../../api/client'
import LeadMap from '../../drawing/LeadMap.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** The candidate in hand: which drawer, which way round, limit by limit, and what changes with it. */
const props = defineProps<{ answer: Equivalents; candidate: EquivalentCandidate }>()
const w = words.transistor.equivalents
const bench = useBench()
const part = computed(() => {
  const p = bench.part.value
  return p && (p.kind === 'transistor' || p.kind === 'diode') ? p : null
})
const cells = computed(() =>
  props.candidate.order.flatMap((name) => {
    const cell = props.candidate.cells[name]
    return cell ? [{ name, ...cell }] : []
  }),
)
const old = computed(() => props.answer.wanted?.outline ?? null)

function fit() {
  const p = part.value
  if (!p) return
  const c = props.candidate
  const lot = c.drawers[0]
  bench.handed.value = {
    part: p.id,
    description: `${c.type} ${c.what}`,
    value: '',
    family: (props.answer.diode
      ? null
      : cells.value.find((x) => x.name === 'material')?.has || null) as never,
    type_number: c.type,
    pieces: lot ? [{ lot: lot.lot, description: c.type }] : [],
  }
  bench.go({ part: p.name, step: 'fit' })
}
</script>

<template>
  <section :aria-label="candidate.type">
    <h2 class="num">{{ candidate.type }}</h2>
    <p class="note">
      {{ candidate.use ? `${candidate.use} · ` : '' }}{{ w.trust[candidate.sure as keyof typeof w.trust] }}
    </p>
    <ul class="drawers">
      <li v-for="d in candidate.drawers" :key="d.lot">
        <b>{{ d.place || w.drawer }}</b>
        <span class="num">{{ d.count }} {{ w.pieces }}</span>
        <span :class="{ watch: d.condition !== 'new' }">{{ d.condition }}</span>
      </li>
      <li v-if="!candidate.drawers.length" class="note">{{ w.buy }}</li>
    </ul>
    <template v-if="candidate.pin_map">
      <h3>{{ w.this }}</h3>
      <p class="way" :class="{ watch: candidate.pin_map.crossed }">{{ candidate.pin_map.text }}</p>
      <LeadMap
        :old="old"
        :next="candidate.outline ?? null"
        :old-name="answer.wanted?.type ?? ''"
        :next-name="candidate.type"
        :crossed="candidate.pin_map.crossed ?? []"
        :lie="candidate.pin_map.leads"
      />
    </template>
    <div v-if="part" class="do">
      <ElButton type="primary" @click="fit">{{ w.fit(part.name) }}</ElButton>
    </div>
    <h3>{{ w.cells }}</h3>
    <table class="limits">
      <tbody>
        <tr v-for="c in cells" :key="c.name" :class="[c.state, { hard: c.hard }]">
          <td>
            <i aria-hidden="true">{{ c.state === 'pass' ? '✓' : c.state === 'short' ? '✕' : '?' }}</i>
            <span class="sr">{{ c.state }}</span>
          </td>
          <th scope="row">{{ c.label }}</th>
          <td class="num">{{ c.has || words.transistor.types.unknown }}</td>
          <td class="need">
            <span v-if="c.needs" class="num">{{ w.needs }} {{ c.needs }}</span>
            <span v-if="c.why" class="note">{{ c.why }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <template v-if="candidate.notes.length">
      <h3>{{ w.notes }}</h3>
      <ul class="notes">
        <li v-for="n in candidate.notes" :key="n">{{ n }}</li>
      </ul>
    </template>
    <template v-if="answer.divider && cells.some((c) => c.name === 'material' && c.state === 'short')">
      <h3>{{ w.divider }}</h3>
      <p>{{ answer.divider.text }}</p>
      <p class="num">{{ w.below2 }}: {{ answer.divider.lower_made_of.join(' · ') }}</p>
      <p class="num">{{ w.above2 }}: {{ answer.divider.upper_made_of.join(' · ') }}</p>
    </template>
    <p class="note">{{ candidate.source }}</p>
  </section>
</template>

<style scoped>
h2 {
  font-size: var(--t-sign);
  font-weight: 600;
  color: var(--numeral);
}
.drawers li {
  display: flex;
  gap: var(--s10);
  align-items: baseline;
  font-size: var(--t-lead);
  padding: var(--s2) 0;
}
.drawers b {
  font-size: var(--t-large);
}
.way {
  font-size: var(--t-lead);
}
.do {
  margin: var(--s8) 0;
}
.limits {
  width: 100%;
  border-collapse: collapse;
  font-size: var(--t-note);
}
.limits tr {
  border-top: 1px solid var(--edge);
}
.limits td,
.limits th {
  padding: var(--s2) var(--s6);
  text-align: left;
  vertical-align: top;
  font-weight: 500;
}
.limits i {
  font-style: normal;
  font-weight: 700;
}
.pass i {
  color: var(--keep);
}
.short i,
.short th {
  color: var(--watch);
}
.short.hard i,
.short.hard th {
  color: var(--replace);
}
.unknown i {
  color: var(--again);
}
.need .note {
  display: block;
}
.limits .num {
  white-space: normal;
}
.notes li {
  border-left: 3px solid var(--watch);
  padding: var(--s2) 0 var(--s2) var(--s10);
  margin-bottom: var(--s4);
  font-size: var(--t-note);
}
</style>
