<script setup lang="ts">
import { computed, ref } from 'vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import BankPage from './BankPage.vue'
import ChangesPage from './ChangesPage.vue'
import ChartPage from './ChartPage.vue'
import CheckInPage from './CheckInPage.vue'
import ClosePage from './ClosePage.vue'
import FeedPage from './FeedPage.vue'
import PowerPage from './PowerPage.vue'
import SocketPage from './SocketPage.vue'

/** A stage of the job, where tray and station stand. */
const bench = useBench()
const chart = ref<InstanceType<typeof ChartPage>>()
/** What a reader of the page hears first; those who see it have the line of the job. */
const title = computed(() => {
  const page = bench.page.value
  if (page === 'banks') return words.job.bank.title
  return page === 'sockets' ? words.job.sockets.title : words.job.stages[page]
})
const sockets = ref<InstanceType<typeof SocketPage>>()
defineExpose({
  begin: (digit: string) => chart.value?.begin(digit) === true,
  key: (key: string) => sockets.value?.key(key) === true,
})
</script>

<template>
  <section v-if="bench.ticket.value" class="frame" :aria-label="words.job.label">
    <h2 class="sr">{{ title }}</h2>
    <BankPage v-if="bench.page.value === 'banks'" />
    <SocketPage v-else-if="bench.page.value === 'sockets'" ref="sockets" />
    <PowerPage v-else-if="bench.stage.value === 'power'" />
    <ChartPage v-else-if="bench.stage.value === 'chart'" ref="chart" />
    <FeedPage v-else-if="bench.stage.value === 'feed'" />
    <ChangesPage v-else-if="bench.stage.value === 'changes'" />
    <ClosePage v-else-if="bench.stage.value === 'close'" />
    <CheckInPage v-else :key="bench.ticket.value.id" :ticket="bench.ticket.value" />
  </section>
  <p v-else class="frame none">{{ words.tray.none }}</p>
</template>

<style scoped>
.frame {
  grid-column: 1 / -1;
  grid-row: 1 / -1;
  min-height: 0;
  min-width: 0;
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  margin: var(--s12) var(--s16) var(--s10) var(--s20);
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  overflow: hidden;
}
.none {
  padding: 30px;
  color: var(--muted);
}
</style>
