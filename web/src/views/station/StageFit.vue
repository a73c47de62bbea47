<script setup lang="ts">
import type { Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import AskedWhy from './AskedWhy.vue'
import { drawersOf } from './goesIn'
import PartTitle from './PartTitle.vue'
import { useFirstAsked } from './useFirstAsked'
import { useStageFit, type StageRow } from './useStageFit'

/** A pair or an output stage goes in with one press: what for each place, and what it measured. */
const props = defineProps<{ part: Part }>()
const emit = defineEmits<{ alone: [] }>()
const bench = useBench()
const stage = useStageFit(bench, () => props.part)
const { rows, loading, failure, problem, busy, wrongAt, choice, held, ready, over, overAsked, fit } = stage
const { first } = useFirstAsked(bench, () => props.part)
/** What is asked of this part is answered here, of another where it lies. */
function main() {
  if (props.part.first_asked) first()
  else if (held.value) bench.select(held.value.place.name)
  else void fit()
}
function drawers(r: StageRow) {
  const c = choice(r)
  return c ? drawersOf(c) : []
}
defineExpose({ main })
</script>

<template>
  <form @submit.prevent="main">
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="failure" class="replace" role="alert">{{ failure }}</p>
      <p v-else-if="loading" class="note" role="status">{{ words.fit.look }}</p>
      <p v-else-if="!rows.length" class="note">{{ words.fit.stageNothing }}</p>
      <template v-else>
        <p class="note">{{ words.fit.stage(rows.map((r) => r.place.name).join(', ')) }}</p>
        <ul class="places">
          <li v-for="(r, i) in rows" :key="r.place.part">
            <b class="name">{{ r.place.name }}</b>
            <Field
              v-slot="{ id, described }"
              :label="words.fit.goesIn(r.place.name)"
              :wrong="wrongAt(i, 'description')"
            >
              <ElSelect
                v-if="r.place.choices.length"
                :id="id"
                v-model="r.picked"
                :aria-describedby="described"
              >
                <ElOption
                  v-for="(c, n) in r.place.choices"
                  :key="c.description + c.from"
                  :value="n"
                  :label="c.description"
                />
              </ElSelect>
              <span v-else class="watch">{{ r.place.because ?? words.fit.nothing }}</span>
            </Field>
            <Field
              v-if="r.place.measurable"
              v-slot="{ id, described }"
              :label="choice(r)?.kind === 'transistor' ? words.fit.gain : words.fit.measured"
              :wrong="wrongAt(i, 'measured')"
            >
              <input
                :id="id"
                v-model="r.measured"
                class="big-entry"
                :class="{ lit: !r.measured, 'wrong-entry': wrongAt(i, 'measured') }"
                :aria-describedby="described"
                inputmode="decimal"
                autocomplete="off"
              />
            </Field>
            <Field
              v-if="choice(r)?.needs_test"
              v-slot="{ id, described }"
              :label="words.fit.test"
              :wrong="wrongAt(i, 'test')"
            >
              <ElInput :id="id" v-model="r.test" :aria-describedby="described" autocomplete="off" />
            </Field>
            <p v-if="choice(r)" class="from asked">
              <span v-for="d in drawers(r)" :key="d.place">
                <b>{{ d.place }}</b> {{ words.fit.there(d.taken, d.count) }}
              </span>
              <span v-if="!drawers(r).length">{{ words.fit.toBuy }}</span>
            </p>
            <p v-if="r.place.asked" class="watch asked">{{ words.fit.first[r.place.asked] }}</p>
            <p v-for="c in choice(r)?.cautions ?? []" :key="c" class="note asked">{{ c }}</p>
            <AskedWhy
              v-if="r.short"
              v-model="r.despite"
              class="asked"
              :asked="r.short"
              :label="words.fit.despite"
              test="despite"
            />
          </li>
        </ul>
      </template>
    </div>
    <AskedWhy
      v-if="overAsked"
      v-model="over"
      :asked="overAsked"
      :label="words.job.changes.overField"
      test="over"
    />
    <div class="foot">
      <ElButton v-if="held" type="primary" native-type="submit">
        {{ held.place.name }}: {{ words.fit.first[held.place.asked ?? 'suspects'] }} <kbd>Enter</kbd>
      </ElButton>
      <ElButton
        v-else-if="rows.length"
        type="primary"
        native-type="submit"
        :loading="busy"
        :disabled="!ready"
      >
        {{ problem?.ask ? words.fit.anyway : words.fit.together(rows.length) }} <kbd>Enter</kbd>
      </ElButton>
      <ElButton text @click="emit('alone')">{{ words.fit.alone(part.name) }}</ElButton>
      <span v-if="!held && rows.some((r) => r.place.measurable && !r.measured)" class="note">{{
        words.fit.measureFirst
      }}</span>
    </div>
  </form>
</template>

<style scoped>
form.step {
  grid-template-rows: minmax(0, 1fr) auto auto;
}
.places {
  display: grid;
  gap: var(--s8);
  margin-top: var(--s10);
}
.places li {
  display: grid;
  grid-template-columns: 64px minmax(0, 2fr) minmax(120px, 1fr);
  gap: var(--s4) var(--s12);
  align-items: end;
  padding: var(--s8) var(--s12);
  border: 1px solid var(--edge);
  border-radius: 8px;
}
.name {
  font: 600 var(--t-lead) var(--title);
  align-self: center;
}
.asked {
  grid-column: 2 / -1;
}
.from {
  display: flex;
  gap: var(--s6);
  font-size: var(--t-small);
  color: var(--muted);
}
.from b {
  color: var(--light);
}
.lit {
  border-color: var(--lamp);
  box-shadow: 0 0 0 1px var(--lamp);
}
.big-entry {
  font-size: var(--t-large);
  padding: var(--s6) var(--s12);
}
@media (max-width: 700px) {
  .places li {
    grid-template-columns: 1fr;
  }
  .asked {
    grid-column: 1;
  }
}
</style>
