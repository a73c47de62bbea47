<script setup lang="ts">
import Field from '../../components/Field.vue'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'

/** What is to go in falls short of its place: take another, or say why this one goes in all the same. */
defineProps<{ short: string }>()
const why = defineModel<string>({ required: true })
</script>

<template>
  <div class="short">
    <p role="alert"><CautionSign /> {{ short }}</p>
    <Field v-slot="{ id }" :label="words.fit.despite">
      <ElInput :id="id" v-model="why" data-test="despite" maxlength="400" autocomplete="off" />
    </Field>
  </div>
</template>

<style scoped>
.short {
  background: var(--caution);
  color: var(--caution-ink);
  border-top: 1px solid var(--caution-edge);
  padding: var(--s8) var(--s16) var(--s10);
  display: grid;
  gap: var(--s6);
}
p {
  display: flex;
  gap: var(--s10);
  line-height: 1.35;
}
.short :deep(label) {
  color: inherit;
}
.short :deep(input) {
  font-family: var(--text);
}
</style>
