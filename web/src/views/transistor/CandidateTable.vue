<script setup lang="ts">
import { computed } from 'vue'
import type { EquivalentCandidate, Equivalents } from '../../api/client'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { words } from '../../words/en'

/** The candidates: what passes first, the drawers before what is to be bought; each limit by word, shape and colour. */
const props = defineProps<{ answer: Equivalents; chosen: string }>()
const picked = defineModel<string>({ required: true })
const w = words.transistor.equivalents
const groups = computed(() => {
  const all = props.answer.candidates
  const of = (label: string, list: EquivalentCandidate[]) => ({ label, list })
  return [
    of(
      w.drawer,
      all.filter((c) => c.passes && c.drawers.length),
    ),
    of(
      w.buy,
      all.filter((c) => c.passes && !c.drawers.length),
    ),
    of(
      w.near,
      all.filter((c) => !c.passes),
    ),
  ].filter((g) => g.list.length)
})
const shape = {
  fits: 'keep',
  'the limits hold': 'watch',
  'fits as far as known': 'watch',
  'what decides is not known': 'replace',
  'does not fit': 'replace',
} as const
const word = {
  fits: w.fits,
  'the limits hold': w.limits,
  'fits as far as known': w.known,
  'what decides is not known': w.undecided,
  'does not fit': w.short,
}
/** What is short or unknown, in the order of the sheet. */
function cells(c: EquivalentCandidate) {
  const hidden = ['kind', 'polarity']
  return c.order.flatMap((name) => {
    const cell = c.cells[name]
    return cell && !hidden.includes(name) ? [{ name, ...cell }] : []
  })
}
</script>

<template>
  <div>
    <section v-for="g in groups" :key="g.label">
      <h3>{{ g.label }}</h3>
      <ul>
        <li v-for="c in g.list" :key="c.type">
          <button
            class="row"
            :class="{ on: chosen === c.type }"
            :aria-pressed="chosen === c.type"
            @click="picked = c.type"
          >
            <span class="head">
              <b class="num">{{ c.type }}</b>
              <span class="state" :class="shape[c.fitness]">
                <VerdictMark :verdict="shape[c.fitness]" :size="16" />{{ word[c.fitness] }}
              </span>
            </span>
            <span class="what">
              {{ c.what
              }}<template v-if="c.humbler">
                · <b class="keep">{{ w.humbler }}</b></template
              >
              <template v-if="c.drawers[0]"> · {{ c.drawers[0].count }} × {{ c.drawers[0].place }}</template>
            </span>
            <span class="cells">
              <span
                v-for="x in cells(c)"
                :key="x.name"
                class="cell"
                :class="[x.state, { hard: x.hard }]"
                :title="x.why"
              >
                <i aria-hidden="true">{{ x.state === 'pass' ? '✓' : x.state === 'short' ? '✕' : '?' }}</i>{{
                  x.label
                }}<span class="sr">: {{ x.state }} {{ x.why }}</span>
              </span>
            </span>
          </button>
        </li>
      </ul>
    </section>
    <p class="note">{{ w.searched(answer.searched) }}</p>
  </div>
</template>

<style scoped>
li {
  margin-bottom: var(--s4);
}
.row {
  width: 100%;
  padding: var(--s6) var(--s10);
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--strip);
  display: grid;
  gap: var(--s2);
}
.row.on {
  border-color: var(--lamp);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
.head {
  display: flex;
  justify-content: space-between;
  gap: var(--s10);
}
.head b {
  font-size: var(--t-head);
}
.state {
  display: inline-flex;
  gap: var(--s6);
  align-items: center;
  font-weight: 600;
  font-size: var(--t-note);
}
.what {
  font-size: var(--t-small);
  color: var(--muted);
}
.cells {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s2) var(--s10);
  font-size: var(--t-small);
}
.cell {
  white-space: nowrap;
  color: var(--muted);
}
.cell i {
  font-style: normal;
  font-weight: 700;
  margin-right: var(--s2);
}
.cell.pass i {
  color: var(--keep);
}
.cell.short {
  color: var(--watch);
}
.cell.short.hard {
  color: var(--replace);
  font-weight: 650;
}
.cell.unknown i {
  color: var(--again);
}
</style>
