<script setup lang="ts">
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import PlanSheet from './PlanSheet.vue'
import { FIELDS, SUPPLY, usePrepare } from './usePrepare'

/** A part is prepared for reforming: what is known of it, the supply, and the plan that follows. */
const props = defineProps<{ part: string }>()
const emit = defineEmits<{ made: [run: string] }>()
const w = words.reform.form
const { typed, known, plan, polarity, mode, clip, section, busy, pick, put, at, elsewhere } = usePrepare(
  () => props.part,
  (run) => emit('made', run),
)
</script>

<template>
  <form class="prepare" @submit.prevent="put">
    <div class="ask">
      <h1>{{ known ? `${known.part} · ${known.what}` : words.reform.loading }}</h1>
      <ChoiceChips
        v-if="known?.sections.length"
        :model-value="section"
        seen
        :label="w.sections"
        :options="known.sections.map((s) => ({ value: s.name, label: `${s.name} · ${s.capacitance}` }))"
        @update:model-value="(name) => name && pick(name)"
      />
      <fieldset>
        <legend>{{ w.part }}</legend>
        <Field
          v-for="f in FIELDS"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="at(f.name)"
        >
          <ElInput :id="id" v-model="typed[f.name]" :aria-describedby="described" autocomplete="off" />
        </Field>
        <Field v-slot="{ id, described }" :label="w.section" :wrong="at('section')">
          <ElInput
            :id="id"
            v-model="section"
            maxlength="12"
            :aria-describedby="described"
            autocomplete="off"
          />
        </Field>
      </fieldset>
      <label class="tick"><input v-model="polarity" type="checkbox" /> {{ w.polarity }}</label>
      <fieldset>
        <legend>{{ w.supply }}</legend>
        <Field
          v-for="f in SUPPLY"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="at(f.name)"
        >
          <ElInput :id="id" v-model="typed[f.name]" :aria-describedby="described" autocomplete="off" />
        </Field>
      </fieldset>
      <fieldset class="ways">
        <legend>{{ w.mode }}</legend>
        <label class="tick">
          <input v-model="mode" type="radio" name="mode" value="simulated bench" />
          {{ words.reform.simulated }}
        </label>
        <label class="tick">
          <input v-model="mode" type="radio" name="mode" value="guided" /> {{ words.reform.guided }}
        </label>
        <p class="why">{{ mode === 'guided' ? words.reform.guidedWhy : words.reform.simulatedWhy }}</p>
        <Field v-if="mode !== 'guided'" v-slot="{ id }" :label="w.clip">
          <select :id="id" v-model="clip">
            <option v-for="(label, name) in w.clips" :key="name" :value="name">{{ label }}</option>
          </select>
        </Field>
      </fieldset>
    </div>
    <div class="answer" aria-live="polite">
      <p v-if="elsewhere" class="wrong" role="alert">{{ elsewhere }}</p>
      <p v-else-if="!plan" class="empty">{{ w.fill }}</p>
      <PlanSheet v-if="plan" :plan="plan" :runs="known?.runs ?? []" :busy="busy" />
    </div>
  </form>
</template>

<style scoped>
.prepare {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  min-height: 0;
}
.ask,
.answer {
  padding: var(--s14) var(--s16);
  overflow-y: auto;
  min-width: 0;
}
.ask {
  border-right: 1px solid var(--edge);
}
h1 {
  font: 600 var(--t-large)/1.3 var(--title);
  margin: 0 0 var(--s8);
}
fieldset {
  border: 0;
  margin: 0 0 var(--s10);
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8) var(--s12);
}
legend {
  font: 600 var(--t-body)/1.8 var(--title);
  padding: 0;
}
.ways {
  grid-template-columns: auto 1fr;
  gap: 0 var(--s16);
}
.why {
  grid-column: 1 / -1;
}
.tick {
  display: flex;
  gap: var(--s8);
  align-items: center;
  min-height: 40px;
}
.tick input {
  width: 18px;
  height: 18px;
  accent-color: var(--lamp);
}
.why {
  color: var(--muted);
  font-size: var(--t-small);
}
select {
  min-height: 40px;
  padding: 0 var(--s8);
  background: var(--panel-low);
  color: var(--light);
  border: 1px solid var(--edge-strong);
  border-radius: 7px;
  font: inherit;
}
.wrong {
  color: var(--replace);
  font-size: var(--t-head);
}
.empty {
  color: var(--muted);
  padding: 40px var(--s10);
}
@media (max-width: 1100px) {
  .prepare {
    grid-template-columns: minmax(0, 1fr);
    overflow-y: auto;
  }
  .ask,
  .answer {
    overflow: visible;
  }
}
</style>
