<script setup lang="ts">
import { ref } from 'vue'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import type { Reform } from './useReform'

/** A word for the record of a run. */
const props = defineProps<{ reform: Reform }>()
const emit = defineEmits<{ close: [] }>()
const text = ref('')
const tried = ref(false)

async function keep() {
  tried.value = true
  if (await props.reform.command('note', { text: text.value })) emit('close')
}
</script>

<template>
  <PaperSheet :title="words.reform.note" :written="!!text" @close="emit('close')">
    <form @submit.prevent="keep">
      <Field
        v-slot="{ id, described }"
        :label="words.reform.noteLabel"
        :wrong="tried ? reform.problem.value?.detail : null"
      >
        <ElInput :id="id" v-model="text" :aria-describedby="described" maxlength="400" autofocus />
      </Field>
      <button>{{ words.reform.keep }}</button>
    </form>
  </PaperSheet>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--s14);
}
button {
  min-height: 44px;
  border-radius: 9px;
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
  text-align: center;
}
</style>
