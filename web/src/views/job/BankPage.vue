<script setup lang="ts">
import { computed } from 'vue'
import CautionList from '../../components/CautionList.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import UndoLast from '../bench/UndoLast.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import BankForm from './BankForm.vue'
import BankTable from './BankTable.vue'
import { useBanks } from './useBanks'

/** Parts in series that share the volts: what each gets, how the whole empties, and whether one goes or all. */
const bench = useBench()
const w = words.job.bank
const use = useBanks()
const { data, problem, bank, sending } = use
const goes = computed(() => {
  const a = bank.value?.advice
  if (!a) return null
  if (a.whole) return w.allOf
  return a.singly.length ? w.only(a.singly) : null
})
</script>

<template>
  <p v-if="problem && !data" class="desk problem" role="alert">
    {{ problem.detail }} <button class="link" @click="use.fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <BankForm :use="use" :data="data" />
    <section class="desk" aria-live="polite" :aria-label="bank?.name ?? w.title">
      <UndoLast :part="null" />
      <p v-if="!bank" class="loading">{{ w.none }}</p>
      <template v-else>
        <CautionList v-if="bank.cautions.length" :cautions="bank.cautions" />
        <h2 :class="bank.call === 'measure again' ? 'again' : bank.call">
          <VerdictMark :verdict="bank.call" :size="28" />
          {{ goes ?? words.verdict[bank.call] }}
        </h2>
        <div v-if="goes" class="do">
          <p class="because">{{ bank.advice.why }}</p>
          <ElButton
            v-if="bank.advice.whole && bank.left"
            type="primary"
            :loading="sending.busy.value"
            @click="use.allGo"
            >{{ w.letGo(bank.left) }}</ElButton
          >
          <template v-else-if="bank.advice.singly.length">
            <ElButton v-for="n in bank.advice.singly" :key="n" @click="bench.select(n)">{{
              w.to(n)
            }}</ElButton>
            <ElPopconfirm v-if="bank.left" :title="w.letGoAsk" width="260" @confirm="use.allGo">
              <template #reference
                ><ElButton text>{{ w.letGo(bank.left) }}</ElButton></template
              >
            </ElPopconfirm>
          </template>
          <ElButton v-else-if="bank.places[0]" @click="bench.select(bank.places[0].member.name)">{{
            w.toFit
          }}</ElButton>
        </div>
        <dl>
          <div v-for="n in bank.numbers" :key="n.name">
            <dt>{{ n.name }}</dt>
            <dd class="num">{{ n.text }}</dd>
          </div>
          <div v-if="bank.proposed">
            <dt>{{ w.proposed }}</dt>
            <dd class="num">{{ bank.proposed }}</dd>
          </div>
        </dl>
        <BankTable :use="use" :bank="bank" />
        <h3 v-if="bank.said.length">{{ w.why }}</h3>
        <ul>
          <li v-for="s in bank.said" :key="s.text">
            <VerdictMark :verdict="s.call" />
            <span
              >{{ s.text }} <span class="note">{{ s.source }}</span></span
            >
          </li>
        </ul>
      </template>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 8fr) minmax(0, 15fr);
}
h2 {
  display: flex;
  gap: var(--s10);
  align-items: center;
  font: 600 var(--t-large)/1.3 var(--title);
}
/* on a narrow page what was found stands before what was asked */
@media (max-width: 1000px) {
  .page > section {
    order: -1;
  }
}
h2.replace {
  color: var(--replace);
}
h2.watch {
  color: var(--watch);
}
h2.keep {
  color: var(--keep);
}
.because {
  margin-right: auto;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s8);
  align-items: center;
  padding-bottom: var(--s4);
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s8) var(--s20);
  padding: var(--s6) 0 var(--s12);
}
dt {
  font-size: var(--t-small);
  color: var(--muted);
}
dd {
  font-size: var(--t-lead);
  font-weight: 600;
}
ul {
  display: grid;
  gap: var(--s6);
}
li {
  display: flex;
  gap: var(--s8);
  align-items: start;
}
</style>
