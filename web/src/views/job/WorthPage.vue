<script setup lang="ts">
import { api, told, type Ticket } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PlanList from './PlanList.vue'
import { useStage } from './useStage'

/** Is it worth repairing: what must be had, from where, at what price, what cannot be had, and the hours, against what the owner wants. */
defineProps<{ ticket: Ticket }>()
const bench = useBench()
const w = words.job.worth
const { data, problem, fetch } = useStage((id) =>
  told(api.GET('/api/tickets/{id}/feasibility', { params: { path: { id } } })),
)
</script>

<template>
  <div class="desk-page page">
    <section class="desk" aria-live="polite">
      <h3>{{ w.wants }}</h3>
      <p class="wants">{{ ticket.intake.wants || w.notSaid }}</p>
      <p v-if="problem && !data" class="problem" role="alert">
        {{ problem.detail }} <button class="link" @click="fetch">{{ words.away.again }}</button>
      </p>
      <p v-else-if="!data" class="loading">{{ words.job.loading }}</p>
      <template v-else>
        <p v-if="!data.parts" class="note">{{ w.nothing }}</p>
        <p v-else class="sum" :class="{ rare: data.rare }">
          {{ w.sum(data.parts, data.in_drawers, data.to_buy, data.rare) }}
        </p>
        <p v-if="data.cost" class="cost">
          <b class="num">{{ data.cost }}</b> {{ w.cost
          }}<template v-if="data.without_price"
            >, {{ words.feasibility.unknown(data.without_price) }}</template
          >
        </p>
        <ul v-if="data.needs.length" class="rows grid needs">
          <li v-for="n in data.needs" :key="n.part" :class="{ rare: n.rarity === 'rare' }">
            <button class="link" @click="bench.select(n.part)">{{ n.part }}</button>
            <span>
              {{ n.best ?? words.feasibility.nothing }}
              <span v-if="!n.best && n.advice[0]" class="note">{{ n.advice[0] }}</span>
            </span>
            <span class="note">{{ n.places.length ? n.places.join(', ') : n.rarity }}</span>
            <span class="num">{{ n.price ?? '' }}</span>
          </li>
        </ul>
      </template>
    </section>
    <section class="desk">
      <PlanList />
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 12fr) minmax(0, 8fr);
}
h3 {
  margin: 0 0 var(--s4);
  font-size: var(--t-lead);
}
.wants {
  font: var(--t-large) var(--title);
  margin-bottom: var(--s12);
}
.sum {
  font-size: var(--t-large);
}
.cost {
  margin: var(--s6) 0 var(--s10);
}
.rare {
  color: var(--replace);
}
.needs {
  --row: 64px minmax(0, 1fr) 160px 64px;
}
.needs > li {
  align-items: baseline;
}
.needs .num {
  text-align: right;
}
.link {
  text-align: left;
}
</style>
