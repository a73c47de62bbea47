<script setup lang="ts">
import type { Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import type { Fit } from './useFit'

/** The safety class that is printed on what goes in, where the part there protects people. */
const props = defineProps<{ part: Part; fit: Fit }>()
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
      <option v-for="c in ['X1', 'X2', 'Y1', 'Y2'] as const" :key="c" :value="c">{{ c }}</option>
    </select>
  </Field>
</template>

<style scoped>
.big-entry {
  font-size: 18px;
  padding: 6px 12px;
}
</style>
