<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef, watch } from 'vue'
import { api, told, type Part } from '../../api/client'
import Field from '../../components/Field.vue'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** What may have died with an output transistor: each is named by the sheet, or it is said that the set has none. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const w = words.transistor.station
type Role = Part['suspects_unnamed'][number]['role']
const typed = reactive({ name: '', none: '' })
/** The role of which it is being said why there is none. */
const none = ref<Role | null>(null)
const wrong = ref<string | null>(null)
/** What is asked for now: one after the other. */
const asked = computed(() => props.part.suspects_unnamed[0])
watch(
  () => asked.value?.role,
  () => {
    Object.assign(typed, { name: '', none: '' })
    none.value = null
    wrong.value = null
  },
)
const box = useTemplateRef<HTMLElement>('box')
/** Where the hand goes next: the field of the role that is asked for now. */
const toField = () => void nextTick(() => box.value?.querySelector('input')?.focus())
function sayNone(role: Role | null) {
  none.value = role
  wrong.value = null
  toField()
}
async function say(role: Role) {
  const { id, version } = props.part
  const body = none.value === role ? { version, role, none: typed.none } : { version, role, name: typed.name }
  const { problem } = await bench.change(() =>
    told(api.POST('/api/parts/{id}/suspects', { params: { path: { id } }, body })),
  )
  toField()
  wrong.value = problem?.detail ?? null
}
</script>

<template>
  <div ref="box">
    <CautionSign />
    <div class="asked">
      <p>{{ w.unnamed(part.name, part.suspects_unnamed.length) }}</p>
      <form v-if="asked" @submit.prevent="say(asked.role)">
        <p class="role">
          <b>{{ asked.role }}</b> {{ asked.why }}; {{ asked.look }}.
        </p>
        <Field v-if="none === asked.role" v-slot="{ id, described }" :label="w.whyNone" :wrong="wrong">
          <ElInput
            :id="id"
            v-model="typed.none"
            :placeholder="w.whyNoneExample"
            :aria-describedby="described"
          />
        </Field>
        <Field v-else v-slot="{ id, described }" :label="w.nameOnSheet" :wrong="wrong">
          <ElInput :id="id" v-model="typed.name" autocomplete="off" :aria-describedby="described" />
        </Field>
        <ElButton native-type="submit">{{ none === asked.role ? w.sayNone : w.onTray }}</ElButton>
        <ElButton v-if="none === asked.role" @click="sayNone(null)">{{ words.ticket.cancel }}</ElButton>
        <ElButton v-else @click="sayNone(asked.role)">{{ w.notThere }}</ElButton>
      </form>
    </div>
  </div>
</template>

<style scoped>
.asked {
  flex: 1;
  display: grid;
  gap: var(--s4);
}
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: var(--s4) var(--s8);
  align-items: end;
}
.role {
  grid-column: 1 / -1;
}
.asked :deep(.el-button) {
  margin-left: 0;
}
</style>
