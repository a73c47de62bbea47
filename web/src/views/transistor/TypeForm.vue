<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { api, Problem, told, took, type TypeFields } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'

/** A type of the workshop's own, or a correction of the table's; each field as people write it. */
const props = defineProps<{ type: string }>()
const emit = defineEmits<{ close: []; done: [type: string] }>()
const w = words.transistor.types
const fields = reactive<Record<string, string>>({ kind: 'bipolar', polarity: 'npn', sure: 'fair' })
const known = ref<TypeFields | null>(null)
const start = ref('')
const problem = ref<Problem | null>(null)
const busy = ref(false)
const CHOICES: Record<string, string[]> = {
  kind: ['bipolar', 'darlington', 'jfet', 'mosfet'],
  polarity: ['npn', 'pnp', 'n-channel', 'p-channel'],
  material: ['silicon', 'germanium'],
  p_ref: ['ambient', 'case'],
  leads_vary: ['no', 'yes'],
  case: ['collector', 'emitter', 'base', 'drain', 'gate', 'shield', 'insulated'],
  sure: ['sure', 'fair', 'doubtful'],
}
const field = computed(() => fields.kind === 'jfet' || fields.kind === 'mosfet')
const columns = computed(() =>
  Object.keys(w.columns).filter((c) =>
    field.value
      ? !c.startsWith('hfe') && c !== 'cob' && c !== 'vcer'
      : !['idss_min', 'idss_max', 'gfs'].includes(c),
  ),
)
const written = computed(() => JSON.stringify(fields) !== start.value)
const wrong = (c: string) => (problem.value?.field === `fields.${c}` ? problem.value.detail : null)

async function load() {
  if (props.type) {
    try {
      known.value = await told(
        api.GET('/api/transistors/types/fields', { params: { query: { type: props.type } } }),
      )
      Object.assign(fields, known.value.fields)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      fields.type = props.type
    }
  }
  start.value = JSON.stringify(fields)
}
onMounted(load)

async function attempt(work: () => Promise<void>) {
  busy.value = true
  try {
    await work()
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e
  } finally {
    busy.value = false
  }
}
const keep = () =>
  attempt(async () => {
    const kept = await told(
      api.POST('/api/transistors/types', {
        body: { fields: { ...fields }, version: known.value?.version ?? null },
      }),
    )
    emit('done', kept.type)
  })
const remove = () =>
  attempt(async () => {
    const id = known.value?.id
    if (!id) return
    await took(api.DELETE('/api/transistors/types/{id}', { params: { path: { id } } }))
    emit('done', known.value?.table ? props.type : '')
  })
</script>

<template>
  <PaperSheet :title="w.form" :written="written" class="wide-sheet" @close="emit('close')">
    <form @submit.prevent="keep">
      <p class="note">{{ w.formHint }}</p>
      <div class="grid">
        <Field
          v-for="c in columns"
          :key="c"
          v-slot="{ id, described }"
          :label="w.columns[c] ?? c"
          :wrong="wrong(c)"
          :hint="
            known?.table && known.table[c] !== fields[c]
              ? `${w.table} ${known.table[c] || w.unknown}`
              : undefined
          "
          :class="{ wide: c === 'use' || c === 'source' }"
        >
          <ElSelect
            v-if="CHOICES[c]"
            :id="id"
            :teleported="false"
            :model-value="fields[c] ?? ''"
            :clearable="!['kind', 'polarity', 'sure'].includes(c)"
            @update:model-value="(v: string | undefined) => (fields[c] = v ?? '')"
          >
            <ElOption v-for="o in CHOICES[c]" :key="o" :value="o" :label="o" />
          </ElSelect>
          <ElInput
            v-else
            :id="id"
            :model-value="fields[c] ?? ''"
            :aria-describedby="described"
            autocomplete="off"
            @update:model-value="(v: string) => (fields[c] = v)"
          />
        </Field>
      </div>
      <p v-if="problem && !problem.field?.startsWith('fields.')" class="problem" role="alert">
        {{ problem.detail }}
      </p>
      <div class="buttons">
        <ElButton type="primary" native-type="submit" :loading="busy">{{ w.keep }}</ElButton>
        <ElButton @click="emit('close')">{{ words.drawers.cancel }}</ElButton>
        <ElPopconfirm v-if="known?.id" :title="w.removeAsk" width="280" :teleported="false" @confirm="remove">
          <template #reference
            ><ElButton text class="out">{{ w.remove }}</ElButton></template
          >
        </ElPopconfirm>
      </div>
    </form>
  </PaperSheet>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: var(--s6) var(--s10);
  align-items: start;
  max-height: 62vh;
  overflow-y: auto;
  padding: var(--s4) var(--s2);
}
.wide {
  grid-column: span 2;
}
.buttons {
  display: flex;
  gap: var(--s10);
  margin-top: var(--s14);
}
.buttons .el-button + .el-button {
  margin-left: 0;
}
.out {
  margin-left: auto !important;
}
.problem {
  color: var(--replace);
  margin-top: var(--s8);
}
</style>
<style>
dialog.wide-sheet {
  width: 780px;
}
</style>
