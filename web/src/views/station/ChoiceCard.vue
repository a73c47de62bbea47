<script setup lang="ts">
import { computed } from 'vue'
import type { Choice } from '../../api/client'
import NetworkDrawing from '../../drawing/NetworkDrawing.vue'
import { words } from '../../words/en'
import { drawersOf } from './goesIn'
import MarginBars from './MarginBars.vue'

/** One thing that can go in; picked, it shows what it has, what changes with it, and the rules behind it. */
const props = defineProps<{ choice: Choice; picked: boolean }>()
const emit = defineEmits<{ pick: [] }>()
const drawers = computed(() => drawersOf(props.choice))
const labels = computed(() => props.choice.pieces.map((p) => [p.value_text]))
const drawnAs = computed(() => (props.choice.kind === 'capacitor' ? 'capacitor' : 'resistor'))
</script>

<template>
  <label class="choice" :class="{ on: picked, drawer: choice.from === 'drawers' }">
    <input type="radio" name="choice" class="sr" :checked="picked" @change="emit('pick')" />
    <span class="what">
      <b>{{ choice.description }}</b>
      <span v-if="choice.deviation_text" class="num">{{ choice.deviation_text }}</span>
    </span>
    <span class="from">
      <template v-if="drawers.length">
        <span v-for="d in drawers" :key="d.place">
          <b>{{ d.place }}</b> {{ words.fit.there(d.taken, d.count) }}
        </span>
      </template>
      <span v-else>{{ words.fit.toBuy }}</span>
      <span v-if="choice.price" class="num">{{ choice.price }}</span>
      <span v-if="choice.needs_test" class="test">{{ words.fit.untested }}</span>
    </span>
    <template v-if="picked">
      <NetworkDrawing v-if="choice.network" :tree="choice.network" :kind="drawnAs" :labels="labels" />
      <MarginBars v-if="choice.margins.length" :margins="choice.margins" />
      <span v-if="choice.worth" class="effect worth">
        <i>{{ words.fit.worth }}</i> {{ choice.worth }}
      </span>
      <span v-for="e in choice.effects" :key="e.text" class="effect" :class="e.better ? 'keep' : 'watch'">
        <i aria-hidden="true">{{ e.better ? '▲' : '▼' }}</i>
        <span class="sr">{{ e.better ? words.fit.better : words.fit.worse }}</span>
        {{ e.text }}
      </span>
      <span v-for="c in choice.cautions" :key="c" class="effect caution"
        ><i aria-hidden="true">!</i>{{ c }}</span
      >
      <span v-for="r in choice.passes" :key="r.text" class="rule" :title="r.source">
        <i class="num">{{ r.rule }}</i>{{ r.text }}
      </span>
    </template>
  </label>
</template>

<style scoped>
.choice {
  display: grid;
  gap: var(--s4);
  padding: var(--s8) var(--s12);
  min-height: 40px;
  border: 1px solid var(--edge);
  border-left-width: 4px;
  border-radius: 8px;
  cursor: pointer;
}
.drawer {
  border-left-color: var(--paper-dim);
}
.choice:hover {
  border-color: var(--edge-strong);
}
.on,
.on:hover {
  border-color: var(--lamp);
  background: var(--baize);
}
.choice:focus-within {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}
.what {
  display: flex;
  justify-content: space-between;
  gap: var(--s10);
  align-items: baseline;
}
.what b {
  font-weight: 600;
  font-size: var(--t-lead);
}
.from {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s2) var(--s14);
  font-size: var(--t-small);
  color: var(--muted);
}
.from b {
  color: var(--light);
  font-weight: 550;
}
.test {
  color: var(--watch);
  font-weight: 600;
}
.effect,
.rule {
  display: grid;
  grid-template-columns: 20px 1fr;
  font-size: var(--t-note);
  line-height: 1.35;
}
.effect i,
.rule i {
  font-style: normal;
}
.worth {
  grid-template-columns: auto 1fr;
  gap: var(--s6);
}
.worth i {
  color: var(--numeral);
}
.caution i {
  font-weight: 700;
  color: var(--watch);
}
.rule {
  color: var(--muted);
  grid-template-columns: 28px 1fr;
  font-size: var(--t-small);
}
.rule i {
  font-size: var(--t-fine);
  line-height: 1.6;
}
</style>
