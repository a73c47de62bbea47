<script setup lang="ts">
import { ref } from 'vue'
import { useLocalStorage } from '@vueuse/core'
import CautionList from '../../components/CautionList.vue'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import type { Reform } from './useReform'

/** The cautions before the first switch-on of a session: read, and acknowledged by name. */
const props = defineProps<{ reform: Reform }>()
const emit = defineEmits<{ close: [] }>()
const last = useLocalStorage('owl-technician', '')
const name = ref(last.value)
const tried = ref(false)

async function on() {
  tried.value = true
  if (!(await props.reform.start(name.value))) return
  last.value = name.value
  emit('close')
}
</script>

<template>
  <PaperSheet :title="words.reform.start.title" :written="!!name" @close="emit('close')">
    <CautionList :cautions="reform.run.value?.cautions ?? []" />
    <form @submit.prevent="on">
      <Field
        v-slot="{ id, described }"
        :label="words.reform.start.name"
        :wrong="tried ? reform.problem.value?.detail : null"
        :hint="words.reform.start.kept"
      >
        <ElInput :id="id" v-model="name" :aria-describedby="described" maxlength="80" autofocus />
      </Field>
      <button class="go">{{ words.reform.start.read }}: {{ words.reform.on.toLowerCase() }}</button>
    </form>
  </PaperSheet>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--s14);
  margin-top: var(--s16);
}
.go {
  min-height: 46px;
  border-radius: 9px;
  background: var(--lamp);
  color: var(--lamp-ink);
  font-weight: 600;
  text-align: center;
}
</style>
