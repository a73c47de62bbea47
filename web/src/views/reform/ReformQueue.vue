<script setup lang="ts">
import PageHead from '../../components/PageHead.vue'
import { soon } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { Reform } from './useReform'

const props = defineProps<{ reform: Reform }>()
const bench = useBench()
const { candidates, desk, run } = props.reform
</script>

<template>
  <aside>
    <section v-if="run && !reform.preparing.value" class="card good">
      <h2>{{ words.reform.when }}</h2>
      <dl>
        <template v-for="a in run.acceptance" :key="a.name">
          <dt :class="{ on: a.decides }">{{ a.name }}</dt>
          <dd class="num" :class="{ on: a.decides }">
            {{ a.limit }}<span v-if="a.decides" class="sr"> {{ words.reform.decides }}</span>
          </dd>
        </template>
      </dl>
      <p>{{ run.rests_on }}</p>
    </section>
    <section class="card queue">
      <PageHead :title="words.reform.queue">
        <span v-if="desk?.done_at" class="num">{{ words.reform.doneAt }} {{ soon(desk.done_at) }}</span>
      </PageHead>
      <p v-if="!desk" class="none">{{ words.reform.loading }}</p>
      <p v-else-if="!desk.queue.length" class="none">{{ words.reform.queueEmpty }}</p>
      <ul>
        <li v-for="r in desk?.queue ?? []" :key="r.id">
          <button
            :class="{ on: r.id === reform.chosen.value, live: r.phase !== 'ready' }"
            :aria-current="r.id === reform.chosen.value ? 'true' : undefined"
            @click="reform.watchRun(r.id)"
          >
            <b>{{ r.part }}</b>
            <span class="num">{{ r.state }}</span>
            <span>{{ r.set }}</span>
            <span v-if="r.planned_at" class="num when">
              {{ r.phase === 'ready' ? words.reform.from : words.reform.done }} {{ soon(r.planned_at) }}
            </span>
          </button>
        </li>
      </ul>
      <h3>{{ words.reform.others }}</h3>
      <p v-if="candidates?.length === 0" class="none">{{ words.reform.othersEmpty }}</p>
      <ul>
        <li v-for="c in candidates ?? []" :key="c.part_id">
          <button
            :disabled="!!c.refused"
            :class="{ on: c.part_id === reform.preparing.value }"
            @click="reform.prepare(c.part_id)"
          >
            <b>{{ c.part }}</b>
            <span class="num">{{ c.what.split(' · ')[0] }}</span>
            <span>{{ c.set }}</span>
            <span v-if="c.refused" class="replace">{{ c.refused }}</span>
          </button>
        </li>
      </ul>
      <button class="back" @click="bench.openTool(null)">{{ words.workshop.back }} <kbd>Esc</kbd></button>
    </section>
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: var(--s12);
  min-height: 0;
}
.card {
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge);
  border-radius: 12px;
  padding: var(--s10) var(--s14);
}
.queue {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
}
.queue > header span {
  font-size: var(--t-fine);
  color: var(--muted);
}
h2 {
  font: 600 var(--t-head)/1.6 var(--title);
}
h3 {
  font: 600 var(--t-body)/1.6 var(--title);
  margin-top: var(--s12);
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
}
dt,
dd {
  padding: var(--s4) 0;
  border-top: 1px solid var(--edge);
}
dd {
  text-align: right;
}
.on {
  color: var(--keep);
}
dt.on {
  font-weight: 600;
}
.good p {
  color: var(--muted);
  font-size: var(--t-small);
  border-top: 1px solid var(--edge);
  padding-top: var(--s6);
}
.none {
  color: var(--muted);
  padding: var(--s6) 0;
}
li button {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 var(--s8);
  width: 100%;
  min-height: 48px;
  padding: var(--s6) var(--s8);
  border-top: 1px solid var(--edge);
  border-radius: 0;
  align-items: baseline;
}
li button > :nth-child(even) {
  text-align: right;
}
li button span {
  font-size: var(--t-small);
}
li button > :nth-child(3) {
  color: var(--muted);
}
li button.on {
  background: var(--well);
  box-shadow: inset 3px 0 var(--lamp);
  color: inherit;
}
li button:disabled {
  cursor: default;
}
.live .when,
.live > :nth-child(2) {
  color: var(--numeral);
}
.back {
  min-height: 40px;
  color: var(--muted);
  margin-top: var(--s10);
}
</style>
