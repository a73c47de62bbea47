<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, told, took, type Account, type Scope } from '../../api/client'
import Field from '../../components/Field.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useForm } from './useForm'

/** What scripts come in with: seen once when it is made, ended at any time. */
defineProps<{ tokens: Account['tokens'] }>()
const emit = defineEmits<{ changed: [] }>()
const w = words.people
const SCOPES: Scope[] = ['read', 'measure', 'work']
const fresh = reactive({ name: '', scope: 'read' as Scope, days: 90 })
const token = ref('')
const { busy, at, send } = useForm()

async function add() {
  const made = await send(() => told(api.POST('/api/account/tokens', { body: { ...fresh } })))
  if (!made) return
  token.value = made.token
  fresh.name = ''
  emit('changed')
}
async function remove(id: string) {
  await send(() => took(api.DELETE('/api/account/tokens/{id}', { params: { path: { id } } })))
  emit('changed')
}
</script>

<template>
  <p v-if="!tokens.length" class="note">{{ w.noTokens }}</p>
  <ul v-else class="rows grid tokens">
    <li v-for="t in tokens" :key="t.id">
      <span>{{ t.name }}</span>
      <span class="note">{{ w.scopes[t.scope] }}</span>
      <span class="note"
        >{{ w.until }} <span class="num">{{ t.expires_at.slice(0, 10) }}</span>,
        {{ t.seen_at ? `${w.lastUsed} ${when(t.seen_at)}` : w.neverUsed }}</span
      >
      <button class="link" :aria-label="`${w.remove}: ${t.name}`" @click="remove(t.id)">
        {{ w.remove }}
      </button>
    </li>
  </ul>
  <p v-if="token" class="fresh" role="status">
    {{ w.tokenOnce }} <code class="num">{{ token }}</code>
  </p>
  <form @submit.prevent="add">
    <Field v-slot="{ id, described }" :label="w.tokenName" :wrong="at('name') ?? at(null)">
      <ElInput
        :id="id"
        v-model="fresh.name"
        maxlength="60"
        autocomplete="off"
        :placeholder="w.tokenExample"
        :aria-describedby="described"
      />
    </Field>
    <Field v-slot="{ id }" :label="w.scope" :wrong="at('scope')">
      <ElSelect :id="id" v-model="fresh.scope" :teleported="false">
        <ElOption v-for="s in SCOPES" :key="s" :value="s" :label="w.scopes[s]" />
      </ElSelect>
    </Field>
    <Field v-slot="{ id, described }" :label="w.days" :wrong="at('days')">
      <ElInput :id="id" v-model.number="fresh.days" inputmode="numeric" :aria-describedby="described" />
    </Field>
    <ElButton native-type="submit" :loading="busy">{{ w.addToken }}</ElButton>
  </form>
</template>

<style scoped>
.tokens {
  --row: minmax(0, 1fr) 110px minmax(0, 1fr) 60px;
}
form {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) 110px;
  gap: var(--s10) var(--s14);
  align-items: start;
  margin-top: var(--s10);
}
.fresh code {
  display: block;
  overflow-wrap: anywhere;
  white-space: normal;
  padding: var(--s8);
  margin-top: var(--s4);
  background: var(--well);
  border-radius: 6px;
  user-select: all;
}
.link {
  min-height: 36px;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
@media (max-width: 500px) {
  form {
    grid-template-columns: 1fr;
  }
}
</style>
