<script setup lang="ts">
import { computed, reactive } from 'vue'
import { api, told, type Changes } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** A change that is no part: a joint, a wire, an alignment. Over an open one it asks why. */
const props = defineProps<{ kinds: Changes['kinds']; ticket: string | null }>()
const emit = defineEmits<{ added: [changes: Changes] }>()
const w = words.job.changes
const adding = useSending(useBench())
const form = reactive({ kind: 'joint' as Changes['kinds'][number], what: '', over_open: '' })
const asked = computed(() => adding.wrong('over_open'))

async function add() {
  const id = props.ticket
  if (!id) return
  const done = await adding.send({ ...form }, ({ key }) =>
    told(api.POST('/api/tickets/{id}/changes', { params: { path: { id } }, body: { ...form, key } })),
  )
  if (!done) return
  emit('added', done)
  Object.assign(form, { what: '', over_open: '' })
}
</script>

<template>
  <div>
    <form class="add" @submit.prevent="add">
      <Field v-slot="{ id }" :label="w.kind" :wrong="adding.wrong('kind')">
        <ElSelect :id="id" v-model="form.kind">
          <ElOption v-for="k in kinds" :key="k" :value="k" :label="k" />
        </ElSelect>
      </Field>
      <Field v-slot="{ id, described }" :label="w.what" :wrong="adding.wrong('what')">
        <ElInput
          :id="id"
          v-model="form.what"
          class="text"
          :placeholder="w.whatExample"
          autocomplete="off"
          :aria-describedby="described"
        />
      </Field>
      <Field
        v-if="asked || form.over_open"
        v-slot="{ id, described }"
        :label="w.overField"
        :wrong="asked"
        class="wide"
      >
        <ElInput
          :id="id"
          v-model="form.over_open"
          class="text"
          autocomplete="off"
          :aria-describedby="described"
        />
      </Field>
      <ElButton type="primary" native-type="submit" :loading="adding.busy.value">{{ w.save }}</ElButton>
    </form>
    <p v-if="adding.problem.value && !adding.problem.value.field" class="problem" role="alert">
      {{ adding.problem.value.detail }}
    </p>
  </div>
</template>

<style scoped>
.add {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: var(--s8) var(--s10);
}
.add .wide {
  grid-column: 1 / -1;
}
.add .el-button {
  justify-self: start;
}
.text :deep(input) {
  font-family: var(--text);
}
</style>
