<script setup lang="ts">
import { computed, nextTick, ref, useId, watch } from 'vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from './useBench'
import { useFind, type Choosable, type Sheet } from './useFind'

/** Finds anything by its name: tickets by what waits, parts, drawers, rules, and what the bench can do. */
const emit = defineEmits<{ close: []; open: [sheet: Sheet] }>()
const bench = useBench()
const w = words.find
/** Another sheet has taken the place of this one. */
let opened = false
const { typed, problem, all, settled } = useFind(bench, (sheet) => {
  opened = true
  emit('open', sheet)
})
const id = useId()
const at = ref(0)
const list = ref<HTMLElement>()
const groups = computed(() => {
  const rows: { name: string; of: { choosable: Choosable; n: number }[] }[] = []
  all.value.forEach((choosable, n) => {
    const last = rows.at(-1)
    if (last?.name === choosable.group) last.of.push({ choosable, n })
    else rows.push({ name: choosable.group, of: [{ choosable, n }] })
  })
  return rows
})
watch(all, (now) => (at.value = Math.min(at.value, Math.max(0, now.length - 1))))
/** Enter was pressed before the answer was there: it takes the first of it. */
let entered = false
watch(
  typed,
  () => {
    at.value = 0
    entered = false
  },
  { flush: 'sync' },
)
watch(settled, (now) => {
  if (now && entered) void choose(all.value[0])
})
function enter() {
  if (settled.value) void choose(all.value[at.value])
  else entered = true
}
function move(by: number) {
  const many = all.value.length
  if (many) at.value = (at.value + by + many) % many
  void nextTick(() => list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
}
async function choose(what: Choosable | undefined) {
  if (!what) return
  what.choose()
  // What was chosen is written down before this sheet goes.
  await nextTick()
  if (!opened) emit('close')
}
</script>

<template>
  <PaperSheet :title="w.title" @close="emit('close')">
    <input
      v-model="typed"
      class="big-entry"
      role="combobox"
      aria-expanded="true"
      autocomplete="off"
      spellcheck="false"
      maxlength="80"
      autofocus
      :aria-label="w.title"
      :aria-controls="`${id}-list`"
      :aria-activedescendant="all.length ? `${id}-${at}` : undefined"
      :placeholder="w.example"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="enter"
    />
    <div :id="`${id}-list`" ref="list" class="found" role="listbox" tabindex="-1" :aria-label="w.found">
      <div v-for="g in groups" :key="g.name" role="group" :aria-labelledby="`${id}-${g.name}`">
        <h3 :id="`${id}-${g.name}`">{{ g.name }}</h3>
        <div
          v-for="{ choosable: c, n } in g.of"
          :id="`${id}-${n}`"
          :key="n"
          class="row"
          role="option"
          :aria-selected="n === at"
          @mousemove="at = n"
          @click="choose(c)"
        >
          <b>{{ c.label }}</b> <span>{{ c.note }}</span> <kbd v-if="c.key">{{ c.key }}</kbd>
        </div>
      </div>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem.away ? w.away : problem.detail }}</p>
    <p v-else-if="!settled" class="note" role="status">{{ w.loading }}</p>
    <p v-else-if="all.length === 0" class="note" role="status">{{ typed.trim() ? w.none : w.empty }}</p>
  </PaperSheet>
</template>

<style scoped>
.big-entry {
  width: 100%;
}
.found {
  margin-top: var(--s10);
  max-height: min(56vh, 520px);
  overflow-y: auto;
}
h3 {
  font: 600 var(--t-fine) / 1.4 var(--text);
  color: var(--muted);
  margin: var(--s10) 0 var(--s4);
}
.row {
  display: grid;
  grid-template-columns: minmax(0, auto) minmax(0, 1fr) auto;
  gap: var(--s12);
  align-items: baseline;
  min-height: 40px;
  padding: var(--s8) var(--s12);
  border-radius: 6px;
  cursor: pointer;
}
.row b {
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.row span {
  color: var(--muted);
  font-size: var(--t-note);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.row[aria-selected='true'] {
  background: var(--lamp);
  color: var(--lamp-ink);
}
.row[aria-selected='true'] span {
  color: inherit;
}
</style>
