<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, told, took, type Account } from '../../api/client'
import Field from '../../components/Field.vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import SeatList from './SeatList.vue'
import TokenList from './TokenList.vue'
import { useForm } from './useForm'
import { useSession } from './useSession'

/** One's own account: where one is signed in, the password, tokens for scripts. */
const emit = defineEmits<{ close: [] }>()
const w = words.people
const { leave } = useSession()
const account = ref<Account | null>(null)
const now = ref('')
const next = ref('')
const changed = ref(false)
const looking = useForm()
const { busy, at, send } = useForm()

async function look() {
  account.value = await looking.send(() => told(api.GET('/api/account')))
}
onMounted(look)

async function end(id: string) {
  await looking.send(() => took(api.DELETE('/api/account/sessions/{id}', { params: { path: { id } } })))
  await look()
}
async function change() {
  const body = { now: now.value, new: next.value }
  const ok = await send(() => took(api.POST('/api/account/password', { body })))
  if (!ok) return
  now.value = next.value = ''
  changed.value = true
  await look()
}
</script>

<template>
  <PaperSheet :title="w.account" :written="!!(now || next)" @close="emit('close')">
    <p v-if="looking.wrong.value" class="problem" role="alert">{{ looking.wrong.value.detail }}</p>
    <p v-else-if="!account" class="loading">{{ words.workshop.loading }}</p>
    <template v-if="account">
      <div class="head">
        <p>
          <b>{{ account.person.name }}</b>
          <span class="note">{{ w.roles[account.person.role] }}: {{ w.may[account.person.role] }}</span>
        </p>
        <ElButton @click="leave">{{ w.signOut }}</ElButton>
      </div>
      <h3>{{ w.sessions }}</h3>
      <SeatList :seats="account.sessions" @end="end" />
      <h3>{{ w.change }}</h3>
      <form class="two" @submit.prevent="change">
        <Field v-slot="{ id, described }" :label="w.passwordNow" :wrong="at('now') ?? at(null)">
          <ElInput
            :id="id"
            v-model="now"
            type="password"
            autocomplete="current-password"
            :aria-describedby="described"
          />
        </Field>
        <Field v-slot="{ id, described }" :label="w.passwordNew" :wrong="at('new')">
          <ElInput
            :id="id"
            v-model="next"
            type="password"
            autocomplete="new-password"
            :aria-describedby="described"
          />
        </Field>
        <ElButton native-type="submit" :loading="busy" :disabled="!now || !next">{{ w.change }}</ElButton>
        <span v-if="changed" class="note" role="status">{{ w.changed }}</span>
      </form>
      <h3>{{ w.tokens }}</h3>
      <TokenList :tokens="account.tokens" @changed="look" />
    </template>
  </PaperSheet>
</template>

<style scoped>
h3 {
  font: 600 var(--t-lead)/1.3 var(--title);
  margin: var(--s20) 0 var(--s6);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--s14);
}
.head .note {
  display: block;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s10) var(--s14);
  align-items: start;
}
.problem {
  color: var(--replace);
}
@media (max-width: 500px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
