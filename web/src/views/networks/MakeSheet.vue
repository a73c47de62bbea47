<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import { api, Problem, told, type ShareAnswer, type Tree } from '../../api/client'
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import { useTyped } from '../../components/useTyped'
import NetworkDrawing from '../../drawing/NetworkDrawing.vue'
import { words } from '../../words/en'
import { leaves, parse, type Sketch } from './sketch'

/** Two or more parts: what do they make, and what does each carry? */
const kind = ref<'resistor' | 'capacitor'>('resistor')
const text = ref('')
const { typed, wrong, read } = useTyped()
const answer = ref<ShareAnswer | null>(null)
const tree = ref<Tree | null>(null)
const problem = ref<string | null>(null)
const entry = ref<HTMLInputElement>()
onMounted(() => entry.value?.focus())
const labels = computed(() => Object.values(answer.value?.parts ?? {}).map((p) => p.shown))

async function make() {
  problem.value = null
  const sketch = parse(text.value)
  if (!sketch) {
    answer.value = null
    return
  }
  const all = leaves(sketch)
  all.forEach((leaf, i) => (typed[`p${i}`] = leaf))
  const of = kind.value === 'resistor' ? ('resistance' as const) : ('capacitance' as const)
  try {
    const values = await read([
      ...all.map((_, i) => ({ name: `p${i}`, quantity: of })),
      { name: 'volts', quantity: 'voltage' },
    ])
    if (!values) {
      problem.value = Object.values(wrong.value)[0] ?? null
      return
    }
    let at = 0
    // Names sort as they stand in the network: the answer lists its parts by name.
    const network = (s: Sketch): object =>
      typeof s === 'string'
        ? { ref: String.fromCharCode(65 + at), value: values[`p${at++}`]?.value ?? 0 }
        : 'series' in s
          ? { series: s.series.map(network) }
          : { parallel: s.parallel.map(network) }
    const asked = network(sketch)
    answer.value = await told(
      api.POST('/api/network/share', {
        body: {
          kind: kind.value,
          network: asked as never,
          drive: values.volts ? { voltage: values.volts.value } : null,
        },
      }),
    )
    let drawn = 0
    const shape = (s: Sketch): Tree =>
      typeof s === 'string'
        ? { value: values[`p${drawn++}`]?.value ?? 0 }
        : 'series' in s
          ? { series: s.series.map(shape) }
          : { parallel: s.parallel.map(shape) }
    tree.value = shape(sketch)
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e.away ? null : e.detail
    answer.value = null
  }
}
watchDebounced([text, kind, () => typed.volts], make, { debounce: 150 })
</script>

<template>
  <div class="make">
    <form class="ask" @submit.prevent="make">
      <ChoiceChips
        v-model="kind"
        columns="1fr 1fr"
        :label="words.networks.kind"
        :options="(['resistor', 'capacitor'] as const).map((k) => ({ value: k, label: words.networks[k] }))"
      />
      <Field v-slot="{ id }" :label="words.networks.make" :wrong="problem" :hint="words.networks.makeHint">
        <input
          :id="id"
          ref="entry"
          v-model="text"
          class="big-entry"
          :placeholder="words.networks.makeExample"
          autocomplete="off"
        />
      </Field>
      <Field v-slot="{ id }" :label="words.networks.volts" :wrong="wrong.volts">
        <ElInput :id="id" v-model="typed.volts" autocomplete="off" />
      </Field>
    </form>
    <div v-if="answer && tree" class="answer">
      <b class="num whole">{{ answer.shown.text }}</b>
      <NetworkDrawing :scale="1.5" :tree="tree" :kind="kind" :labels="labels" />
      <p v-if="answer.balancing" class="watch">{{ answer.balancing.text }}</p>
    </div>
  </div>
</template>

<style scoped>
.make {
  padding: var(--s16) var(--s20);
  overflow-y: auto;
  display: grid;
  gap: var(--s16);
  align-content: start;
}
.ask {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr) 180px;
  gap: var(--s14);
  align-items: end;
}
.ask > * {
  align-self: start;
}
.whole {
  font-size: var(--t-farther);
  font-weight: 500;
  color: var(--numeral);
}
.answer {
  border: 1px solid var(--edge-strong);
  border-radius: 10px;
  background: var(--baize);
  padding: var(--s12) var(--s20) var(--s16);
}
@media (max-width: 900px) {
  .ask {
    grid-template-columns: 1fr;
  }
}
</style>
