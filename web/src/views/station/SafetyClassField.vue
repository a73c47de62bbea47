<script setup lang="ts">
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { Fit } from './useFit'

/** The safety class that is printed on what goes in, where the part there protects people. */
const props = defineProps<{ fit: Fit }>()
const bench = useBench()
const { form, wrong } = props.fit
</script>

<template>
  <Field v-slot="{ id, described }" :label="words.fit.safety" :wrong="wrong('safety')">
    <select
      :id="id"
      v-model="form.safety"
      data-test="safety"
      class="big-entry"
      :class="{ 'wrong-entry': wrong('safety') }"
      :aria-describedby="described"
    >
      <option :value="null">{{ words.fit.noClass }}</option>
      <option v-for="c in bench.workshop.value?.words.safety_classes" :key="c" :value="c">{{ c }}</option>
    </select>
  </Field>
</template>

<style scoped>
.big-entry {
  font-size: var(--t-large);
  padding: var(--s6) var(--s12);
}
</style>
