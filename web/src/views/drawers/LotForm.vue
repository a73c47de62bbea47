<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import type { Drawers, Lot, Problem } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** Every column of a lot as it is typed; what is wrong with one stands below it. */
const props = defineProps<{
  lot: Lot | null
  columns: Drawers['columns']
  save: (fields: Record<string, string>) => Promise<Problem | null>
  remove?: () => Promise<Problem | null>
}>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const start: Record<string, string> = props.lot?.fields ?? { kind: 'resistor', condition: 'new', count: '1' }
const fields = reactive<Record<string, string>>({ ...start })
const problem = ref<Problem | null>(null)
const busy = ref(false)
const written = computed(() => Object.entries(fields).some(([k, v]) => (start[k] ?? '') !== v))

const families = computed<string[]>(
  () => bench.workshop.value?.words.families.find((f) => f.kind === fields.kind)?.families ?? [],
)
/** What says nothing of a part that is known by its number alone. */
const byNumber = [
  'value',
  'watts',
  'volts',
  'amperes',
  'winding',
  'safety',
  'celsius',
  'measured',
  'tolerance',
  'family',
]
/** Which columns say something of such a part. */
const shown = computed(() => {
  const not: Record<string, string[]> = {
    resistor: ['amperes', 'winding', 'safety', 'celsius', 'type'],
    capacitor: ['watts', 'winding', 'type'],
    coil: ['watts', 'volts', 'safety', 'celsius'],
    diode: ['value', 'watts', 'winding', 'safety', 'celsius', 'measured', 'tolerance'],
    transistor: ['value', 'winding', 'safety', 'celsius', 'measured', 'tolerance'],
    'integrated circuit': byNumber,
    valve: byNumber,
    fuse: ['watts', 'amperes', 'winding', 'safety', 'celsius', 'measured', 'tolerance', 'family'],
    switch: ['value', 'watts', 'winding', 'safety', 'celsius', 'measured', 'tolerance', 'family'],
    loudspeaker: ['volts', 'amperes', 'winding', 'safety', 'celsius', 'measured', 'tolerance', 'family'],
    lamp: ['watts', 'volts', 'winding', 'safety', 'celsius', 'tolerance', 'family', 'measured'],
  }
  const hidden = not[fields.kind ?? ''] ?? []
  return props.columns.filter((c) => c.name !== 'id' && !hidden.includes(c.name))
})
function options(column: Drawers['columns'][number]) {
  return column.name === 'family' ? families.value : column.words
}
function setKind(kind: string) {
  fields.kind = kind
  fields.family = ''
}

async function keep() {
  busy.value = true
  problem.value = await props.save({ ...fields })
  busy.value = false
  if (!problem.value) emit('close')
}
async function out() {
  problem.value = (await props.remove?.()) ?? null
  if (!problem.value) emit('close')
}
</script>

<template>
  <PaperSheet
    :title="lot ? words.drawers.lot : words.drawers.newLot"
    :written="written"
    @close="emit('close')"
  >
    <form @submit.prevent="keep">
      <div class="grid">
        <Field
          v-for="c in shown"
          :key="c.name"
          v-slot="{ id, described }"
          :label="words.drawers.columns[c.name] ?? c.name"
          :wrong="problem?.field === c.name ? problem.detail : null"
          :class="{ wide: c.name === 'place' || c.name === 'measured' }"
        >
          <ElSelect
            v-if="c.words.length"
            :id="id"
            :teleported="false"
            :model-value="fields[c.name] ?? ''"
            :clearable="!['kind', 'condition'].includes(c.name)"
            @update:model-value="
              (v: string | undefined) => (c.name === 'kind' ? setKind(v ?? '') : (fields[c.name] = v ?? ''))
            "
          >
            <ElOption v-for="w in options(c)" :key="w" :value="w" :label="w" />
          </ElSelect>
          <ElInput
            v-else
            :id="id"
            :model-value="fields[c.name] ?? ''"
            :aria-describedby="described"
            autocomplete="off"
            @update:model-value="(v: string) => (fields[c.name] = v)"
          />
        </Field>
      </div>
      <p v-if="problem && !shown.some((c) => c.name === problem?.field)" class="wrong" role="alert">
        {{ problem.detail }}
      </p>
      <div class="buttons">
        <ElButton type="primary" native-type="submit" :loading="busy">{{ words.drawers.keep }}</ElButton>
        <ElButton @click="emit('close')">{{ words.drawers.cancel }}</ElButton>
        <ElPopconfirm
          v-if="lot"
          :title="words.drawers.removeAsk"
          width="260"
          :teleported="false"
          @confirm="out"
        >
          <template #reference
            ><ElButton text class="out">{{ words.drawers.remove }}</ElButton></template
          >
        </ElPopconfirm>
      </div>
    </form>
  </PaperSheet>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: var(--s8) var(--s12);
  align-items: start;
}
.wide {
  grid-column: span 2;
}
.wrong {
  color: var(--replace);
  margin-top: var(--s10);
}
.buttons {
  display: flex;
  gap: var(--s10);
  margin-top: var(--s16);
}
.buttons .el-button + .el-button {
  margin-left: 0;
}
.out {
  margin-left: auto !important;
}
</style>
