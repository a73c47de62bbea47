<script setup lang="ts">
import Field from '../../components/Field.vue'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** Another change is not proven yet: prove it first, or say why this one is begun all the same. */
defineProps<{ asked: string }>()
const over = defineModel<string>({ required: true })
const bench = useBench()
const w = words.job.changes
</script>

<template>
  <div class="open">
    <p role="alert"><CautionSign /> {{ asked }}</p>
    <div class="row">
      <Field v-slot="{ id }" :label="w.overField">
        <ElInput :id="id" v-model="over" data-test="over" autocomplete="off" />
      </Field>
      <ElButton @click="bench.openStage('changes')">{{ w.proveFirst }}</ElButton>
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
.row {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: var(--s10);
  align-items: end;
}
.open :deep(label) {
  color: inherit;
}
.row :deep(input) {
  font-family: var(--text);
}
</style>
