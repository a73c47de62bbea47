<script setup lang="ts">
import { onMounted, reactive, ref } from 'vue'
import { api, told, type Member, type Role } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import PersonCard from './PersonCard.vue'
import { useForm } from './useForm'
import { useSession } from './useSession'

/** The people of the workshop, as the owner keeps them; for one person alone, how several begin. */
const w = words.people
const { accounts, person } = useSession()
const ROLES: Role[] = ['technician', 'apprentice', 'reader', 'owner']
const people = ref<Member[] | null>(null)
const looking = useForm()
const { busy, at, send } = useForm()
const fresh = reactive({ name: '', role: 'technician' as Role })
/** The link that was made last: it is seen once. */
const link = ref<{ name: string; link: string } | null>(null)

async function look() {
  if (person.value?.role !== 'owner') return
  const got = await looking.send(() => told(api.GET('/api/people')))
  if (got) people.value = got.people
}
onMounted(look)

async function add() {
  const name = fresh.name.trim()
  const made = await send(() => told(api.POST('/api/people', { body: { ...fresh } })))
  if (!made) return
  link.value = { name, link: location.origin + made.link }
  fresh.name = ''
  await look()
}
</script>

<template>
  <div class="desk-page page">
    <section v-if="!accounts" class="desk">
      <p>{{ w.alone }}</p>
      <p class="note">{{ w.aloneHow }}</p>
    </section>
    <section v-else-if="person?.role !== 'owner'" class="desk">
      <p class="note">{{ w.ownerOnly }}</p>
    </section>
    <template v-else>
      <section class="desk">
        <p v-if="looking.wrong.value" class="problem" role="alert">
          {{ looking.wrong.value.detail }} <button class="link" @click="look">{{ words.away.again }}</button>
        </p>
        <p v-else-if="!people" class="loading">{{ words.workshop.loading }}</p>
        <ul v-if="people">
          <PersonCard
            v-for="p in people"
            :key="p.id"
            :member="p"
            :roles="ROLES"
            @changed="look"
            @link="(made) => (link = { name: p.name, link: made })"
          />
        </ul>
      </section>
      <section class="desk">
        <div v-if="link" class="fresh" role="status">
          <p>
            {{ w.linkFor }} <b>{{ link.name }}</b>:
          </p>
          <code class="num">{{ link.link }}</code>
          <p class="note">{{ w.linkOnce }}</p>
        </div>
        <h3>{{ w.add }}</h3>
        <form @submit.prevent="add">
          <Field v-slot="{ id, described }" :label="w.name" :wrong="at('name') ?? at(null)">
            <ElInput
              :id="id"
              v-model="fresh.name"
              maxlength="60"
              autocomplete="off"
              :aria-describedby="described"
            />
          </Field>
          <Field v-slot="{ id }" :label="w.role" :wrong="at('role')" :hint="w.may[fresh.role]">
            <ElSelect :id="id" v-model="fresh.role" :teleported="false">
              <ElOption v-for="r in ROLES" :key="r" :value="r" :label="w.roles[r]" />
            </ElSelect>
          </Field>
          <ElButton native-type="submit" type="primary" :loading="busy">{{ w.add }}</ElButton>
        </form>
      </section>
    </template>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 14fr) minmax(0, 9fr);
}
form {
  display: grid;
  gap: var(--s14);
  justify-items: start;
}
form > :deep(.field) {
  width: 100%;
}
.fresh {
  padding: var(--s12) var(--s14);
  border: 1px solid var(--lamp);
  border-radius: 8px;
}
.fresh code {
  display: block;
  overflow-wrap: anywhere;
  white-space: normal;
  padding: var(--s8) 0;
  user-select: all;
}
.note {
  margin-top: var(--s6);
}
</style>
