<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import AskedWhy from './AskedWhy.vue'
import ChoiceCard from './ChoiceCard.vue'
import FitByHand from './FitByHand.vue'
import PartTitle from './PartTitle.vue'
import PlaceFacts from './PlaceFacts.vue'
import RefusedList from './RefusedList.vue'
import SafetyClassField from './SafetyClassField.vue'
import StageFit from './StageFit.vue'
import { useFirstAsked } from './useFirstAsked'
import { useFit } from './useFit'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const fit = useFit(bench, () => props.part)
const { problem, busy, wrong, answer, failure, picked, measured, test, bag, over, asked, choice, choose } =
  fit
const { measurable, despite, short, toMeasure } = fit
/** Networks of three and more stand behind a line where something simpler does. */
const unfolded = ref(false)
const folded = computed(() => answer.value?.choices.filter((c) => c.folded).length ?? 0)
const left = computed(() => {
  const d = props.part.decision
  return d?.stands === true && (d.decided === 'keep' || d.decided === 'watch')
})
const { first } = useFirstAsked(bench, () => props.part)
/** What is one stage goes in together, unless somebody says that it is this one only. */
const alone = ref(false)
const together = computed(() => !alone.value && props.part.stage_to_fit.length > 1)
const stage = ref<InstanceType<typeof StageFit>>()
/** While a question is open that would kill what goes in, or make it the wrong one, Enter goes there. */
function main() {
  if (together.value && stage.value) stage.value.main()
  else if (props.part.first_asked) first()
  else fit.main()
}
defineExpose({
  main,
  enter: () => fit.measuredField.value?.focus(),
  otherwise: () => fit.measuredField.value?.focus(),
})
</script>

<template>
  <StageFit v-if="together" ref="stage" :part="part" @alone="alone = true" />
  <form v-else @submit.prevent="fit.fit">
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="left" class="left">{{ words.fit.keptCaution }}</p>
      <PlaceFacts v-if="answer" :part="part" :facts="answer.facts" />
      <p v-if="failure" class="failure" role="alert">{{ failure.detail }}</p>
      <p v-else-if="!answer" class="note" role="status">{{ words.fit.look }}</p>
      <template v-else>
        <ul v-if="answer.choices.length" class="choices" :aria-label="words.fit.choices">
          <template v-for="(c, i) in answer.choices" :key="c.description + c.from">
            <li v-if="unfolded || !c.folded || picked === i">
              <ChoiceCard :choice="c" :picked="picked === i" @pick="choose(i)" />
            </li>
          </template>
        </ul>
        <p v-else class="note">{{ words.fit.nothing }}</p>
        <p v-for="a in answer.advice" :key="a.text" class="advice" :title="a.source">{{ a.text }}</p>
        <p class="tools">
          <button v-if="folded && !unfolded" type="button" class="link" @click="unfolded = true">
            {{ words.fit.folded(folded) }}
          </button>
          <button
            v-if="part.kind === 'diode' || part.position === 'reservoir' || part.kind === 'coil'"
            type="button"
            class="link"
            @click="bench.openTool('supply', part.kind === 'coil' ? 'field-coil' : 'rectifier')"
          >
            {{ part.kind === 'coil' ? words.supply.sheets['field-coil'] : words.supply.sheets.rectifier }}
          </button>
          <button
            v-if="part.kind === 'resistor' || part.kind === 'capacitor'"
            type="button"
            class="link"
            @click="bench.openTool('networks')"
          >
            {{ words.networks.open }}
          </button>
          <button
            v-if="part.kind === 'transistor' || part.kind === 'diode' || part.kind === 'integrated circuit'"
            type="button"
            class="link"
            @click="bench.openTool('transistors', 'equivalents')"
          >
            {{ words.transistor.station.typeAt }}
          </button>
          <button v-if="part.stage_to_fit.length > 1" type="button" class="link" @click="alone = false">
            {{ words.fit.wholeStage }}
          </button>
          <button type="button" class="link" :aria-pressed="picked === -1" @click="choose(-1)">
            {{ words.fit.other }}
          </button>
        </p>
      </template>
      <FitByHand v-if="picked === -1" :part="part" :fit="fit" />
      <RefusedList v-if="answer?.refused.length" :key="part.id" :part="part.id" :refused="answer.refused" />
    </div>
    <AskedWhy v-if="short" v-model="despite" :asked="short" :label="words.fit.despite" test="despite" />
    <AskedWhy v-if="asked" v-model="over" :asked="asked" :label="words.job.changes.overField" test="over">
      <ElButton @click="bench.openStage('changes')">{{ words.job.changes.proveFirst }}</ElButton>
    </AskedWhy>
    <div class="entry">
      <p v-if="wrong('description') && picked !== -1" class="wrong" role="alert">
        {{ wrong('description') }}
      </p>
      <SafetyClassField v-if="part.safety_classes.length && (answer || failure)" :fit="fit" />
      <Field v-if="answer || failure" v-slot="{ id }" :label="words.job.changes.bag" :wrong="wrong('bag')">
        <input :id="id" v-model="bag" class="big-entry bag" placeholder="bag 7" autocomplete="off" />
      </Field>
      <Field
        v-if="choice?.needs_test && choice.kind !== 'resistor'"
        v-slot="{ id, described }"
        :label="words.fit.test"
        :wrong="wrong('test')"
      >
        <input
          :id="id"
          ref="testField"
          v-model="test"
          class="big-entry"
          :class="{ 'wrong-entry': wrong('test') }"
          :placeholder="words.fit.testExamples[part.kind] ?? words.fit.testExample"
          :aria-describedby="described"
          autocomplete="off"
        />
      </Field>
      <Field
        v-if="measurable && (answer || failure)"
        v-slot="{ id, described }"
        :label="
          part.kind === 'transistor'
            ? words.fit.gain
            : part.kind === 'valve'
              ? words.fit.emission
              : words.fit.measured
        "
        :wrong="wrong('measured')"
      >
        <input
          :id="id"
          ref="measuredField"
          v-model="measured"
          class="big-entry"
          :class="{ 'wrong-entry': wrong('measured'), lit: toMeasure }"
          :placeholder="choice?.pieces[0]?.measured ?? undefined"
          :aria-describedby="described"
          inputmode="decimal"
          autocomplete="off"
        />
      </Field>
    </div>
    <div class="foot">
      <ElButton v-if="part.first_asked" type="primary" @click="first">
        {{ words.fit.first[part.first_asked.question] }} <kbd>Enter</kbd>
      </ElButton>
      <ElButton
        :type="part.first_asked ? 'default' : 'primary'"
        native-type="submit"
        :loading="busy"
        :disabled="!answer"
      >
        {{ problem?.ask ? words.fit.anyway : choice?.from === 'drawers' ? words.fit.take : words.fit.fitted }}
        <kbd v-if="!part.first_asked">Enter</kbd>
      </ElButton>
      <span v-if="toMeasure && (answer || failure) && !part.first_asked" class="note">{{
        words.fit.measureFirst
      }}</span>
      <span v-else-if="choice?.from === 'drawers'" class="note">{{ words.fit.takes }}</span>
    </div>
  </form>
</template>

<style scoped>
form.step {
  grid-template-rows: minmax(0, 1fr) auto auto;
}
.left {
  color: var(--watch);
  margin-bottom: var(--s6);
}
.failure {
  color: var(--replace);
  padding: var(--s14) 0;
}
.choices li {
  margin-bottom: var(--s6);
}
.advice {
  border-left: 3px solid var(--watch);
  padding: var(--s2) 0 var(--s2) var(--s10);
  margin: var(--s6) 0;
  font-size: var(--t-note);
}
.tools {
  display: flex;
  gap: var(--s4) var(--s16);
  flex-wrap: wrap;
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 36px;
  font-size: var(--t-note);
}
.link[aria-pressed='true'] {
  color: var(--numeral);
}
.entry {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: var(--s12);
  padding: var(--s8) var(--s16) var(--s6);
}
.entry .wrong {
  color: var(--replace);
  font-size: var(--t-note);
}
.entry .bag {
  font-family: var(--text);
}
.entry .lit {
  border-color: var(--lamp);
  box-shadow: 0 0 0 1px var(--lamp);
}
.entry .big-entry {
  font-size: var(--t-large);
  padding: var(--s6) var(--s12);
}
</style>
