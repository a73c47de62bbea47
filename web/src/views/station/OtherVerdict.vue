<script setup lang="ts">
import { onMounted, useTemplateRef } from 'vue'
import type { Verdict } from '../../api/client'
import Field from '../../components/Field.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** Another decision than the one that is offered, and why. */
defineProps<{ wrong: string | null }>()
const emit = defineEmits<{ decide: [] }>()
const decided = defineModel<Verdict>('decided', { required: true })
const why = defineModel<string>('why', { required: true })
const bench = useBench()
// It may lie below what is in sight: focusing it brings it there.
const reason = useTemplateRef<{ focus: () => void }>('reason')
onMounted(() => reason.value?.focus())
const tone = (v: Verdict) => (v === 'measure again' ? 'again' : v)
</script>

<template>
  <form class="other" @submit.prevent="emit('decide')">
    <fieldset>
      <legend class="sr">{{ words.judge.otherwise }}</legend>
      <label
        v-for="v in bench.workshop.value?.words.verdicts ?? []"
        :key="v"
        :class="[{ on: decided === v }, tone(v)]"
      >
        <input v-model="decided" type="radio" name="decided" :value="v" class="sr" />
        <VerdictMark :verdict="v" :size="16" />{{ words.verdict[v] }}
      </label>
    </fieldset>
    <Field v-slot="{ id }" :label="words.judge.why" :wrong="wrong">
      <ElInput :id="id" ref="reason" v-model="why" autocomplete="off" />
    </Field>
  </form>
</template>

<style scoped>
.other {
  margin-top: var(--s10);
  display: grid;
  gap: var(--s8);
}
.other fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: var(--s6);
}
.other label:has(input) {
  min-height: 40px;
  display: flex;
  gap: var(--s6);
  align-items: center;
  padding: 0 var(--s12);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  font-weight: 600;
  cursor: pointer;
}
.other label.on {
  box-shadow: inset 0 0 0 2px currentColor;
  background: var(--baize);
}
.other label:focus-within {
  outline: 2px solid var(--focus);
  outline-offset: 2px;
}
</style>
