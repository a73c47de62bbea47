<script setup lang="ts">
import type { Feasibility } from '../../api/client'
import { words } from '../../words/en'

/** The count, cost and rarity of what a set needs: whether to go on with it. */
defineProps<{ set: Feasibility; name: string }>()
</script>

<template>
  <section class="set">
    <h3>{{ name }}</h3>
    <p class="counts">
      <span
        ><b class="num">{{ set.parts }}</b> {{ words.feasibility.go }}</span
      >
      <span
        ><b class="num keep">{{ set.in_drawers }}</b> {{ words.feasibility.here }}</span
      >
      <span
        ><b class="num">{{ set.to_buy }}</b> {{ words.feasibility.buy }}</span
      >
      <span
        ><b class="num" :class="{ replace: set.rare }">{{ set.rare }}</b> {{ words.feasibility.rare }}</span
      >
      <span v-if="set.cost"
        ><b class="num">{{ set.cost }}</b> {{ words.feasibility.cost
        }}<template v-if="set.without_price"
          >, {{ words.feasibility.unknown(set.without_price) }}</template
        ></span
      >
    </p>
    <p v-if="set.needs.length" class="needs">
      <span v-for="n in set.needs" :key="n.part" :title="n.best ?? undefined">
        <b class="num">{{ n.part }}</b>
        {{ n.best ?? words.feasibility.nothing }} <i>{{ n.rarity }}</i>
      </span>
    </p>
  </section>
</template>

<style scoped>
.set {
  border: 1px solid var(--edge-strong);
  border-radius: 10px;
  padding: var(--s10) var(--s16) var(--s12);
  margin-bottom: var(--s14);
}
h3 {
  font: 600 var(--t-head) var(--title);
}
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s2) 26px;
  align-items: baseline;
  font-size: var(--t-body);
}
.counts b {
  font-size: var(--t-sign);
  font-weight: 500;
}
.needs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: var(--s2) var(--s20);
  font-size: var(--t-small);
  margin-top: var(--s6);
}
.needs i {
  color: var(--muted);
  font-style: normal;
}
</style>
