<script setup lang="ts">
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { words } from '../../words/en'
import PartStrip from './PartStrip.vue'
import { useBench } from './useBench'
import TraySort from './TraySort.vue'
import { useTrayOrder } from './useTrayOrder'

const bench = useBench()
const emit = defineEmits<{ add: [] }>()
const rows = useTemplateRef<HTMLElement>('rows')
const sort = useTemplateRef('sort')
const tray = useTrayOrder(bench)
const { order, filter, toMeasure, parts } = tray

watch(
  () => bench.strip.value?.id,
  async () => {
    await nextTick()
    rows.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  },
)
/** Parts that were overloaded, and nobody has said by what. */
const questions = computed(() => bench.ticket.value?.parts.filter((p) => p.cause_question) ?? [])
/** Part after or before, in the order that is seen. */
function move(by: number) {
  const at = parts.value.findIndex((p) => p.id === bench.strip.value?.id)
  const next = parts.value[Math.min(Math.max(at + by, 0), parts.value.length - 1)]
  if (next) bench.select(next.name)
}
const joins = (i: number) => {
  const [p, before] = [parts.value[i], parts.value[i - 1]]
  return p?.group.some((g) => g.id === before?.id) ?? false
}
/** The valve that begins here, on a tray that lies valve by valve. */
const valveHead = (i: number) => {
  if (order.value !== 'valve') return null
  const [p, before] = [parts.value[i], parts.value[i - 1]]
  return p && (!before || before.valve !== p.valve) ? (p.valve ?? words.tray.noValve) : null
}
defineExpose({
  move,
  turn: tray.turn,
  find: () => sort.value?.focus(),
  measure: () => (toMeasure.value = !toMeasure.value),
})
</script>

<template>
  <section class="tray" :aria-label="words.tray.label">
    <TraySort
      v-if="(bench.ticket.value?.parts.length ?? 0) > 3"
      ref="sort"
      :tray="tray"
      @first="parts[0] && bench.select(parts[0].name)"
    />
    <div v-if="bench.ticket.value" class="head columns" aria-hidden="true">
      <span>{{ words.tray.part }}</span>
      <span></span>
      <span>{{ words.tray.place }}</span>
      <span class="value">{{ words.tray.sheet }}</span>
      <span class="value">{{ words.tray.marked }}</span>
      <span class="value">{{ words.tray.measured }}</span>
      <span class="right">{{ words.tray.verdict }}</span>
    </div>
    <div ref="rows" class="rows">
      <p v-if="bench.loading.value && !bench.ticket.value" class="empty" role="status">
        {{ words.tray.loading }}
      </p>
      <p v-else-if="bench.missing.value" class="empty" role="alert">{{ bench.missing.value }}</p>
      <p v-else-if="!bench.ticket.value" class="empty">{{ words.tray.none }}</p>
      <template v-else>
        <p v-if="bench.ticket.value.complaint" class="complaint">{{ bench.ticket.value.complaint }}</p>
        <p v-if="questions.length" class="questions">
          <span aria-hidden="true">?</span> {{ words.tray.questions }}
          <button v-for="p in questions" :key="p.id" @click="bench.select(p.name)">{{ p.name }}</button>
        </p>
        <p v-if="bench.ticket.value.parts.length === 0" class="empty">
          {{ words.tray.empty }}<br /><code class="num">{{ words.tray.emptyExample }}</code>
        </p>
        <p v-if="bench.ticket.value.parts.length && !parts.length" class="empty">
          {{ toMeasure && !filter.trim() ? words.tray.allMeasured : words.tray.noneMatch }}
        </p>
        <ul>
          <li v-for="(p, i) in parts" :key="p.id" :class="{ joined: joins(i) }">
            <h3 v-if="valveHead(i) !== null" class="valve">{{ valveHead(i) }}</h3>
            <PartStrip
              :part="p"
              :selected="p.id === bench.strip.value?.id"
              :free="toMeasure"
              @select="bench.select(p.name)"
            />
          </li>
        </ul>
        <div class="more">
          <button class="add" @click="emit('add')">+ {{ words.tray.add }} <kbd>/</kbd></button>
          <button class="add" @click="bench.openStage('banks')">{{ words.job.bank.title }}</button>
          <button class="add" @click="bench.openStage('sockets')">
            {{ words.job.sockets.title }} <kbd>P</kbd>
          </button>
        </div>
      </template>
    </div>
  </section>
</template>

<style>
/* shared by the head and the strips, so that their columns stand under each other */
.columns {
  display: grid;
  grid-template-columns: 44px 106px minmax(90px, 1fr) 84px 84px 90px 132px;
  align-items: center;
  padding: 0 var(--s12) 0 var(--s10);
}
/* a phone: its name, where it sits, what it reads, the verdict */
@media (max-width: 700px) {
  .columns {
    grid-template-columns: 44px minmax(60px, 1fr) minmax(70px, auto) auto;
    gap: var(--s4);
  }
  .columns > :is(:nth-child(2), :nth-child(4), :nth-child(5)) {
    display: none;
  }
}
</style>

<style scoped>
.tray {
  padding: var(--s10) var(--s12) 0 var(--s14);
  min-width: 0;
  min-height: 0;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
}
.rows {
  grid-row: 3;
}
.head {
  margin-left: var(--s6);
  font-size: var(--t-fine);
  color: var(--muted);
  padding-bottom: var(--s6);
}
.head .value {
  text-align: right;
  padding-right: 1.6ch;
}
.head .right {
  text-align: right;
}
.rows {
  overflow-y: auto;
  padding: var(--s2) var(--s4) var(--s8) var(--s8);
  scrollbar-color: var(--edge-strong) transparent;
  scrollbar-width: thin;
}
.complaint {
  color: var(--muted);
  font: 400 var(--t-note)/1.4 var(--title);
  padding: var(--s2) var(--s10) var(--s10);
}
.questions {
  padding: 0 var(--s10) var(--s8);
  font-size: var(--t-note);
  color: var(--replace);
}
.questions button {
  min-height: 40px;
  padding: 0 var(--s8);
  text-decoration: underline;
  font-weight: 600;
}
.empty {
  color: var(--muted);
  font-size: var(--t-lead);
  padding: 40px 24px;
  text-align: center;
}
.empty code {
  display: inline-block;
  margin-top: var(--s10);
  color: var(--light);
  font-size: var(--t-head);
}

.more {
  display: flex;
  gap: var(--s10);
  margin-top: var(--s8);
}
.add {
  min-height: 40px;
  padding: var(--s6) var(--s14);
  color: var(--muted);
  border: 1px dashed var(--edge-strong);
  border-radius: 8px;
}
.add:hover {
  color: var(--light);
}
li + li {
  margin-top: var(--s6);
}
.valve {
  font: 600 var(--t-note)/1.3 var(--title);
  color: var(--muted);
  padding: var(--s6) var(--s10) var(--s4);
}
/* halves of a pair lie together, with a bracket at their left */
li.joined {
  margin-top: 0;
  position: relative;
}
li.joined::before {
  content: '';
  position: absolute;
  left: -5px;
  top: -34px;
  height: 68px;
  width: 4px;
  border: 2px solid var(--lamp);
  border-right: 0;
  border-radius: 4px 0 0 4px;
}
@media (max-width: 1100px) {
  .tray {
    padding: var(--s8) var(--s8) 0;
  }
}
</style>
