<script setup lang="ts">
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** Where the old part lies; and, where another change is not proven yet, why this one is begun all the same. */
defineProps<{ asked: string | null; wrongBag: string | null }>()
const bag = defineModel<string>('bag', { required: true })
const over = defineModel<string>('over', { required: true })
const bench = useBench()
const w = words.job.changes
</script>

<template>
  <div class="change">
    <Field v-slot="{ id }" :label="w.bag" :wrong="wrongBag" class="bag">
      <ElInput :id="id" v-model="bag" placeholder="bag 7" autocomplete="off" />
    </Field>
    <Field v-if="asked || over" v-slot="{ id, described }" :label="w.overField" :wrong="asked">
      <ElInput :id="id" v-model="over" data-test="over" autocomplete="off" :aria-describedby="described" />
    </Field>
    <button v-if="asked" type="button" class="link" @click="bench.openStage('changes')">
      {{ w.proveFirst }}
    </button>
  </div>
</template>

<style scoped>
.change {
  display: grid;
  grid-template-columns: 108px 1fr;
  gap: 4px 10px;
}
.link {
  grid-column: 2;
  justify-self: start;
  min-height: 36px;
  color: var(--muted);
  text-decoration: underline dotted;
}
</style>
