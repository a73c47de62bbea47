<script setup lang="ts">
import Field from '../../components/Field.vue'
import CautionSign from '../../drawing/CautionSign.vue'

/** Something stands against what is about to be done: what, and below it why it is done all the same. */
defineProps<{ asked: string; label: string; test: string }>()
const why = defineModel<string>({ required: true })
</script>

<template>
  <div class="open">
    <p role="alert"><CautionSign /> {{ asked }}</p>
    <div class="answer">
      <Field v-slot="{ id }" :label="label">
        <ElInput :id="id" v-model="why" :data-test="test" maxlength="400" autocomplete="off" />
      </Field>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.open {
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
.answer {
  display: flex;
  gap: var(--s10);
  align-items: end;
}
.answer > .field {
  flex: 1;
}
.open :deep(label) {
  color: inherit;
}
.open :deep(input) {
  font-family: var(--text);
}
</style>
