<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, told, type Part, type Reading } from '../../api/client'
import Field from '../../components/Field.vue'
import { when } from '../../format/time'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from './useSending'

/** The readings of a part, newest first. A mistaken one is voided with a reason and stays on the list. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const { busy, wrong, send, problem } = useSending(bench)
const newest = computed(() => [...props.part.readings].reverse())
const usual = computed(() => props.part.readable[0]?.quantities[0])

const striking = ref<string | null>(null)
const why = ref('')

async function voidReading(id: string) {
  const content = { id, why: why.value }
  const done = await send(content, ({ key }) =>
    told(api.POST('/api/readings/{id}/void', { params: { path: { id } }, body: { key, why: why.value } })),
  )
  if (done) {
    striking.value = null
    why.value = ''
  }
}
/** How it was measured, in one line. */
function how(r: Reading): string {
  const at = [r.test_voltage, r.test_frequency].filter(Boolean).join(', ')
  const with_ = [r.instrument, r.way].filter(Boolean).join(' · ')
  return [with_ || r.mode, at].filter(Boolean).join(', ')
}
</script>

<template>
  <h3>{{ words.measure.readings }}</h3>
  <p v-if="newest.length === 0" class="note">{{ words.measure.none }}</p>
  <ol class="rows grid readings">
    <li v-for="r in newest" :key="r.id" :class="{ before: r.before_fitting, voided: r.voided }">
      <b class="num">{{ r.overrange ? words.tray.overrange : r.measured?.text }}</b>
      <span class="mid">
        <template v-if="r.quantity !== usual">{{ r.called }} · </template>{{ said(r.state)
        }}<template v-if="r.hot">, {{ words.measure.hotShort }}</template
        ><template v-if="r.before_fitting"> · {{ words.measure.before }}</template>
        <span class="small"
          >{{ how(r) }} <span class="num">{{ r.accuracy }}</span></span
        >
        <span v-if="r.voided" class="small why">{{ words.measure.voided }} {{ r.voided }}</span>
        <span v-for="w in r.warnings.filter((w) => w.bars)" :key="w.pitfall" class="small bars">{{
          w.text
        }}</span>
      </span>
      <time class="num small" :datetime="r.taken_at">{{ when(r.taken_at) }}</time>
      <button
        v-if="!r.voided && !r.before_fitting"
        type="button"
        class="void"
        :aria-label="`${words.measure.void}: ${r.measured?.text ?? words.tray.overrange}`"
        :aria-expanded="striking === r.id"
        @click="striking = striking === r.id ? null : r.id"
      >
        ✕
      </button>
      <div v-if="striking === r.id" class="reason">
        <Field v-slot="{ id }" :label="words.measure.voidWhy" :wrong="wrong('why') ?? problem?.detail">
          <ElInput
            :id="id"
            v-model="why"
            autofocus
            autocomplete="off"
            @keydown.enter.prevent="voidReading(r.id)"
          />
        </Field>
        <ElButton :loading="busy" @click="voidReading(r.id)">{{ words.measure.void }}</ElButton>
      </div>
    </li>
  </ol>
</template>

<style scoped>
.readings {
  --row: 96px minmax(0, 1fr) 46px 40px;
  font-size: var(--t-note);
}
.readings > li {
  align-items: start;
}
.readings b {
  font-size: var(--t-head);
  font-weight: 600;
  line-height: 1.25;
}
.readings .before b {
  font-weight: 400;
}
.voided b,
.voided .mid {
  text-decoration: line-through;
  color: var(--muted);
}
.small {
  color: var(--muted);
  font-size: var(--t-small);
  display: block;
}
.small .num {
  white-space: nowrap;
}
.why {
  display: inline-block;
  text-decoration: none;
}
.bars {
  color: var(--watch);
}
time {
  text-align: right;
}
.void {
  width: 40px;
  height: 40px;
  margin-top: -8px;
  text-align: center;
  color: var(--muted);
  border-radius: 8px;
}
.void:hover {
  color: var(--replace);
}
.reason {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--s8);
  align-items: end;
}
</style>
