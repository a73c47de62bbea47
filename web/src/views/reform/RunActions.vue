<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Run } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { Reform } from './useReform'

/** What can be done with a run as it stands, and its files. */
const props = defineProps<{ reform: Reform; run: Run }>()
const emit = defineEmits<{ on: []; note: [] }>()
const bench = useBench()
const simulated = computed(() => props.run.mode === 'simulated bench')
const SPEEDS = [1, 10, 60, 300, 600]
const taken = ref(false)

async function take() {
  taken.value = await props.reform.takeLeakage()
}
function toPart() {
  void bench.refresh()
  bench.go({ ticket: props.run.ticket_id, part: props.run.part.split(' ')[0] ?? null, step: 'measure' })
}
</script>

<template>
  <footer>
    <template v-if="run.phase === 'feeding'">
      <button class="act stop" @click="reform.command('stop')">{{ words.reform.stop }} <kbd>S</kbd></button>
      <button class="act" @click="reform.command(run.held ? 'resume' : 'hold')">
        {{ run.held ? words.reform.resume : words.reform.hold }} <kbd>H</kbd>
      </button>
      <button class="act" @click="reform.command('hot')">{{ words.reform.hot }}</button>
    </template>
    <template v-else-if="run.phase === 'ready'">
      <button class="act main" :disabled="!run.touch.safe" @click="emit('on')">
        {{ words.reform.on }} <kbd>Enter</kbd>
      </button>
      <button class="act" @click="reform.remove()">{{ words.reform.remove }}</button>
    </template>
    <template v-else-if="run.phase === 'emptying'">
      <button v-if="run.empty_in_s == null" class="act main" @click="reform.command('discharge')">
        {{ words.reform.discharge }}
      </button>
    </template>
    <template v-else>
      <button class="act main" @click="toPart">{{ words.reform.toPart }}</button>
      <button v-if="run.leakage && !taken" class="act" @click="take">
        {{ words.reform.take }}: {{ run.leakage }}
      </button>
      <span v-if="taken" class="keep">{{ words.reform.taken }}</span>
      <button class="act" @click="reform.prepare(run.part_id)">{{ words.reform.again }}</button>
    </template>
    <button class="act" @click="emit('note')">{{ words.reform.note }} <kbd>N</kbd></button>
    <span v-if="run.phase !== 'ready'" class="files">
      <a :href="`/api/reform/runs/${run.id}/record.csv`" download>{{ words.reform.files.csv }}</a>
      <a :href="`/api/reform/runs/${run.id}/record.json`" download>{{ words.reform.files.json }}</a>
      <a :href="`/api/reform/runs/${run.id}/chart.svg`" download>{{ words.reform.files.chart }}</a>
      <span v-if="run.thinned" class="note">{{ words.reform.thinned }} {{ run.thinned }}</span>
    </span>
    <span class="mode" :title="simulated ? words.reform.simulatedWhy : words.reform.guidedWhy">
      {{ simulated ? words.reform.simulated : words.reform.guided }}
      <select
        v-if="simulated && run.phase !== 'over'"
        :value="run.speed"
        :aria-label="words.reform.speed"
        @change="reform.command('speed', { speed: Number(($event.target as HTMLSelectElement).value) })"
      >
        <option v-for="s in SPEEDS" :key="s" :value="s">{{ s }}×</option>
      </select>
    </span>
  </footer>
</template>

<style scoped>
footer {
  display: flex;
  gap: var(--s10);
  align-items: center;
  flex-wrap: wrap;
}
.act {
  min-height: 42px;
  padding: var(--s8) var(--s16);
  border: 1px solid var(--edge-strong);
  border-radius: 9px;
  font-weight: 600;
}
.act.stop {
  background: var(--replace);
  border-color: var(--replace);
  color: #1d0d07;
}
:global(html.day .act.stop) {
  color: #fff;
}
.act.main {
  background: var(--lamp);
  border-color: var(--lamp);
  color: var(--lamp-ink);
}
.act:disabled {
  opacity: 0.5;
  cursor: default;
}
.files {
  display: flex;
  gap: var(--s12);
}
a {
  color: var(--light);
  min-height: 40px;
  display: inline-flex;
  align-items: center;
}
.mode {
  margin-left: auto;
  color: var(--muted);
}
select {
  min-height: 40px;
  background: var(--panel-low);
  color: var(--light);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  font: 500 var(--t-body) var(--num);
}
</style>
