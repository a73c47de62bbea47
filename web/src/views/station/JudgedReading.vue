<script setup lang="ts">
import { computed } from 'vue'
import type { Judgement, Part } from '../../api/client'
import DriftGauge from '../../drawing/DriftGauge.vue'
import LimitDial from '../../drawing/LimitDial.vue'
import { when } from '../../format/time'
import { said } from '../../words/dialect'
import { words } from '../../words/en'

/** What was read, in figures for a metre away, and where it stands between its limits. */
const props = defineProps<{ part: Part; judgement: Judgement }>()
const against = computed(() => (props.part.judged_against ?? 'marked') as 'marked' | 'sheet' | 'fitted')
/** The reading that decided; the fitted part's own measurement has none in the list. */
const reading = computed(() => props.part.deciding ?? null)
const shown = computed(() => reading.value?.measured ?? props.judgement.gauge?.reading?.shown ?? null)
/** Three dials for an electrolytic; one gauge of the value for the others. */
const dials = computed(() => props.judgement.dials ?? [])
const gauge = computed(() =>
  dials.value.length || !props.judgement.gauge?.reading ? null : props.judgement.gauge,
)
</script>

<template>
  <div>
    <div v-if="dials.length" class="dials">
      <LimitDial v-for="d in dials" :key="d.quantity" :dial="d" />
    </div>
    <div v-else class="read">
      <div class="n num">
        <template v-if="shown">
          {{ shown.number }}<small>{{ shown.unit }}</small>
        </template>
        <template v-else-if="reading?.overrange">{{ words.tray.overrange }}</template>
        <template v-else>–</template>
      </div>
      <div v-if="reading" class="meta">
        <template v-if="reading.called !== 'resistance'">{{ reading.called }}, </template
        >{{ said(reading.state) }}<template v-if="reading.hot">, {{ words.measure.hotShort }}</template
        ><br />
        {{ reading.instrument || reading.mode }}
        {{ [reading.test_voltage, reading.test_frequency].filter(Boolean).join(', ') }}
        {{ reading.accuracy }}<br />
        {{ when(reading.taken_at) }}
      </div>
    </div>
    <DriftGauge v-if="gauge" :gauge="gauge" :against="against" />
  </div>
</template>

<style scoped>
.read {
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: var(--s10);
  margin: var(--s4) 0 var(--s2);
}
.n {
  font-size: var(--t-farther);
  line-height: 1.05;
  font-weight: 500;
  color: var(--numeral);
  text-shadow: 0 0 24px var(--lamp-glow);
}
.n small {
  font-size: var(--t-sign);
  margin-left: var(--s6);
}
.meta {
  text-align: right;
  font-size: var(--t-small);
  color: var(--muted);
  line-height: 1.4;
}
.dials {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: var(--s6);
  margin: var(--s8) 0 var(--s4);
}
</style>
