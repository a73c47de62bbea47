<script setup lang="ts">
import { ref } from 'vue'
import { api, countersignedBy, told } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useForm } from './useForm'

/** A technician or the owner countersigns with his own password what somebody else is about to do. */
const w = words.people
const waiting = ref<((countersign: string | null) => void) | null>(null)
const name = ref('')
const password = ref('')
const { wrong, busy, at, send } = useForm()

countersignedBy(
  () =>
    new Promise((resolve) => {
      waiting.value?.(null)
      password.value = ''
      wrong.value = null
      waiting.value = resolve
    }),
)
function over(countersign: string | null) {
  waiting.value?.(countersign)
  waiting.value = null
  password.value = ''
}
async function sign() {
  const body = { name: name.value, password: password.value }
  const done = await send(() => told(api.POST('/api/countersign', { body })))
  if (done) over(done.countersign)
}
</script>

<template>
  <PaperSheet v-if="waiting" :title="w.countersign" :written="!!password" @close="over(null)">
    <p class="why">{{ w.countersignWhy }}</p>
    <form @submit.prevent="sign">
      <Field v-slot="{ id, described }" :label="w.name" :wrong="at('name')">
        <ElInput
          :id="id"
          v-model="name"
          autofocus
          autocomplete="off"
          maxlength="60"
          :aria-describedby="described"
        />
      </Field>
      <Field v-slot="{ id, described }" :label="w.password" :wrong="at('password') ?? at(null)">
        <ElInput
          :id="id"
          v-model="password"
          type="password"
          autocomplete="off"
          maxlength="200"
          :aria-describedby="described"
        />
      </Field>
      <div class="row">
        <ElButton native-type="submit" type="primary" :loading="busy">{{ w.sign }}</ElButton>
        <ElButton @click="over(null)">{{ w.notNow }}</ElButton>
      </div>
    </form>
  </PaperSheet>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--s14);
}
.why {
  margin-bottom: var(--s14);
  color: var(--muted);
}
</style>
