<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { onMounted, ref, useTemplateRef } from 'vue'
import { api, told } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useForm } from './useForm'

/** Name, password, bench; with a link a new password, and for the first owner a name. */
const { link = '', names = true } = defineProps<{ link?: string; names?: boolean }>()
const emit = defineEmits<{ done: [] }>()
const w = words.people
const name = useLocalStorage('owl-who', '')
const bench = useLocalStorage('owl-bench', '')
const password = ref('')
/** Whether only the password is left to be typed. */
const known = !names || name.value !== ''
const { busy, at, send } = useForm()
const form = useTemplateRef<HTMLFormElement>('form')

onMounted(() => {
  const empty = [...(form.value?.querySelectorAll('input') ?? [])].find((i) => !i.value)
  empty?.focus()
})

async function enter() {
  const body = { name: name.value, password: password.value, bench: bench.value }
  const done = await send(() =>
    told(
      link ? api.POST('/api/session/link', { body: { ...body, link } }) : api.POST('/api/session', { body }),
    ),
  )
  if (!done) return
  name.value = done.name
  emit('done')
}
</script>

<template>
  <form ref="form" @submit.prevent="enter">
    <Field v-if="names" v-slot="{ id, described }" :label="w.name" :wrong="at('name')">
      <ElInput
        :id="id"
        v-model="name"
        :autofocus="!known"
        autocomplete="username"
        maxlength="60"
        :aria-describedby="described"
      />
    </Field>
    <Field
      v-slot="{ id, described }"
      :label="link ? w.newPassword : w.password"
      :wrong="at('password') ?? at('link') ?? at(null)"
      :hint="link ? w.passwordHint : undefined"
    >
      <ElInput
        :id="id"
        v-model="password"
        type="password"
        show-password
        :autofocus="known"
        :autocomplete="link ? 'new-password' : 'current-password'"
        maxlength="200"
        :aria-describedby="described"
      />
    </Field>
    <Field v-slot="{ id, described }" :label="w.bench" :wrong="at('bench')" :hint="w.benchHint">
      <ElInput :id="id" v-model="bench" autocomplete="off" maxlength="60" :aria-describedby="described" />
    </Field>
    <ElButton native-type="submit" type="primary" :loading="busy">{{ link ? w.begin : w.signIn }}</ElButton>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--s14);
}
</style>
