<script setup lang="ts">
import { computed, onUnmounted, ref, watchEffect } from 'vue'
import type { Part } from '../../api/client'
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import MeasuredWith from '../../components/MeasuredWith.vue'
import ReadingTrace from '../../drawing/ReadingTrace.vue'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import JunctionNote from './JunctionNote.vue'
import PartTitle from './PartTitle.vue'
import ReadingTable from './ReadingTable.vue'
import ValveData from './ValveData.vue'
import { useMeasure } from './useMeasure'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const m = useMeasure(bench, () => props.part)
const {
  typed,
  state,
  hot,
  volts,
  hertz,
  pin,
  wantsPin,
  chosen,
  reading,
  readable,
  ways,
  way,
  wayId,
  foreseen,
  problem,
} = m

// The cautions are those of a live probe as long as volts in the running set are being read.
watchEffect(() => (bench.probing.value = reading.value.state === 'in circuit'))
onUnmounted(() => (bench.probing.value = false))

const field = ref<HTMLInputElement>()
/** What is to be done before the next reading, where the last ones do not decide. */
const next = computed(() => {
  const j = props.part.judgement
  return j?.verdict === 'measure again' && props.part.measured ? j.next.join('; ') : ''
})
/** How one end is freed, as long as both are connected. */
const free = computed(() => {
  const connected = state.value === 'in circuit' || state.value === 'valve pulled'
  return connected && !next.value.includes(props.part.isolate) ? props.part.isolate : ''
})
const main = computed(() => typed.value.trim() || !props.part.measured)

async function take(measuredWith = '') {
  if (!typed.value.trim()) {
    if (props.part.judgement && props.part.measured) bench.go({ step: 'judge' })
    else field.value?.focus()
    return
  }
  if (await m.take(measuredWith)) field.value?.focus()
}

async function ask() {
  if (await m.fromMeter()) field.value?.focus()
}

defineExpose({ main: () => void take(), enter: () => field.value?.focus() })
</script>

<template>
  <form @submit.prevent="take()">
    <div class="body">
      <PartTitle :part="part" />
      <JunctionNote v-if="part.kind === 'transistor'" :part="part" />
      <ChoiceChips
        v-if="readable.length > 1"
        class="what"
        :class="{ many: readable.length > 5 }"
        :model-value="reading.called"
        :label="words.measure.what"
        :options="readable.map((q) => ({ value: q.called, label: q.called }))"
        @update:model-value="(called) => (chosen = called ?? chosen)"
      />
      <ValveData v-if="part.valve_data" :data="part.valve_data" />
      <ChoiceChips
        v-if="wantsPin && part.valve_data?.pins.length"
        :model-value="pin"
        class="pins"
        columns="1fr 1fr"
        seen
        :label="words.measure.pin"
        :options="part.valve_data.pins.map((p) => ({ value: p.pin, label: `${p.pin} ${said(p.name)}` }))"
        @update:model-value="(n) => (pin = n ?? null)"
      />
      <Field v-else-if="wantsPin" v-slot="{ id }" :label="words.measure.pin" :wrong="m.wrong('pin')">
        <ElInputNumber :id="id" v-model="pin" :min="1" :max="20" />
      </Field>
      <p v-if="wantsPin && part.valve_data?.pins.length && m.wrong('pin')" class="wrong" role="alert">
        {{ m.wrong('pin') }}
      </p>
      <Field v-slot="{ id, described }" class="entry" :label="words.measure.entry" :wrong="m.wrong('typed')">
        <input
          :id="id"
          ref="field"
          v-model="typed"
          class="big-entry reading"
          :class="{ 'wrong-entry': m.wrong('typed') }"
          :placeholder="words.measure.examples[reading.called as keyof typeof words.measure.examples]"
          :aria-describedby="described"
          autocomplete="off"
          spellcheck="false"
        />
      </Field>
      <MeasuredWith v-if="m.choices.value.length" :choices="m.choices.value" @choose="take" />
      <ChoiceChips
        v-model="state"
        class="states"
        :label="words.measure.state"
        :options="(bench.workshop.value?.words.states ?? []).map((s) => ({ value: s, label: said(s) }))"
      >
        <label :class="{ on: hot }" class="hot">
          <input v-model="hot" type="checkbox" class="sr" />{{
            part.kind === 'resistor' ? words.measure.hot : words.measure.warm
          }}
        </label>
      </ChoiceChips>
      <div class="how">
        <Field
          v-slot="{ id }"
          class="with"
          :label="words.measure.meter"
          :hint="m.said.value ?? way?.way.accuracy ?? undefined"
          :wrong="m.wrong('way') ?? m.wrong('instrument') ?? m.refused.value"
        >
          <ElSelect :id="id" v-model="wayId" :placeholder="words.measure.noMeter">
            <ElOption v-for="w in ways" :key="w.id" :value="w.id" :label="w.label" />
          </ElSelect>
        </Field>
        <Field
          v-if="m.wantsVolts.value"
          v-slot="{ id }"
          :label="words.measure.volts"
          :wrong="m.wrong('test_voltage')"
        >
          <ElInput
            :id="id"
            v-model="volts"
            :placeholder="way?.way.test_voltage ?? words.measure.voltsExample"
            autocomplete="off"
          />
        </Field>
        <Field
          v-else-if="m.wantsHertz.value"
          v-slot="{ id }"
          :label="words.measure.hertz"
          :wrong="m.wrong('test_frequency')"
        >
          <ElInput :id="id" v-model="hertz" :placeholder="way?.way.test_frequency ?? ''" autocomplete="off" />
        </Field>
      </div>
      <ul v-if="foreseen.length || free || next" class="traps" aria-live="polite">
        <li v-if="next" class="next">{{ next }}</li>
        <li v-else-if="free" class="next">{{ words.measure.free }} {{ free }}</li>
        <li v-for="w in foreseen" :key="w.pitfall" :class="{ bars: w.bars }" :title="w.source">
          {{ w.text }}<template v-if="w.next">: {{ w.next }}</template>
        </li>
      </ul>
      <ReadingTrace
        v-if="part.judgement?.gauge"
        :readings="part.readings"
        :gauge="part.judgement.gauge"
        :quantity="part.readable[0]?.quantities[0]"
      />
      <ReadingTable :part="part" />
    </div>
    <div class="foot">
      <ElButton type="primary" native-type="submit" :loading="m.busy.value">
        {{ problem?.ask ? words.measure.anyway : words.measure.take }}
        <kbd v-if="main">Enter</kbd>
      </ElButton>
      <ElButton v-if="way?.instrument.address" :loading="m.asking.value" @click="ask">
        {{ m.asking.value ? words.measure.reading : words.measure.fromMeter }}
      </ElButton>
      <ElButton v-if="part.measured && part.judgement" @click="bench.go({ step: 'judge' })">
        {{ words.measure.judge }} <kbd v-if="!main">Enter</kbd>
      </ElButton>
    </div>
  </form>
</template>

<style scoped>
.entry {
  margin: var(--s8) 0 var(--s10);
}
.reading {
  font-size: var(--t-far);
  line-height: 1.15;
  color: var(--numeral);
}
.reading::placeholder {
  color: var(--well-soft);
  opacity: 0.55;
  font-size: var(--t-value);
}
.what {
  margin-top: var(--s8);
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
}
.what.many {
  grid-auto-flow: row;
  grid-template-columns: repeat(4, 1fr);
}
.states {
  grid-auto-flow: column;
  grid-auto-columns: auto;
  margin-bottom: var(--s10);
  font-size: var(--t-note);
}
.states :deep(> label) {
  padding: var(--s4) var(--s6);
}
.states .hot {
  border-style: dashed;
}
.how {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px;
  gap: var(--s10);
}
.how .with:last-child {
  grid-column: 1 / -1;
}
.traps {
  margin-top: var(--s10);
  display: grid;
  gap: var(--s4);
}
.traps li {
  padding: var(--s6) var(--s12);
  border-radius: 8px;
  font-size: var(--t-note);
  background: var(--strip);
  border-left: 3px solid var(--watch);
}
.traps .bars {
  background: var(--caution);
  border-color: var(--caution-edge);
  color: var(--caution-ink);
  border-left-color: var(--replace);
}
.traps .next {
  background: var(--again-low);
  border-left-color: var(--again);
}
</style>
