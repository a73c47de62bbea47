<script setup lang="ts">
import { computed } from 'vue'
import { api, told, took, type Member, type Role } from '../../api/client'
import { words } from '../../words/en'
import SeatList from './SeatList.vue'
import { useForm } from './useForm'

/** Somebody: the role, whether a password was chosen, where the person is signed in, and what the owner does about it. */
const { member, roles } = defineProps<{ member: Member; roles: Role[] }>()
const emit = defineEmits<{ changed: []; link: [link: string] }>()
const w = words.people
const { wrong, send } = useForm()
const path = computed(() => ({ params: { path: { id: member.id } } }))
const state = computed(() => {
  if (member.blocked) return w.out
  if (member.locked_until) return w.locked
  return member.has_password ? null : w.noPassword
})

async function change(body: { role?: Role; blocked?: boolean; open?: boolean }) {
  await send(() => took(api.PATCH('/api/people/{id}', { ...path.value, body: { open: false, ...body } })))
  emit('changed')
}
async function reset() {
  const made = await send(() => told(api.POST('/api/people/{id}/link', path.value)))
  if (made) emit('link', location.origin + made.link)
}
async function end(id: string) {
  await send(() => took(api.DELETE('/api/people/sessions/{id}', { params: { path: { id } } })))
  emit('changed')
}
</script>

<template>
  <li class="card" :class="{ out: member.blocked }">
    <div class="head">
      <b>{{ member.name }}</b>
      <ElSelect
        :model-value="member.role"
        :aria-label="`${w.role}: ${member.name}`"
        @update:model-value="(role: Role) => change({ role })"
      >
        <ElOption v-for="r in roles" :key="r" :value="r" :label="w.roles[r]" />
      </ElSelect>
      <span class="note">{{ state ?? w.may[member.role] }}</span>
    </div>
    <SeatList :seats="member.sessions" @end="end" />
    <div class="acts">
      <button v-if="member.locked_until" class="link" @click="change({ open: true })">{{ w.open }}</button>
      <button class="link" @click="reset">{{ w.link }}</button>
      <button class="link" @click="change({ blocked: !member.blocked })">
        {{ member.blocked ? w.letIn : w.shutOut }}
      </button>
    </div>
    <p v-if="wrong" class="problem" role="alert">{{ wrong.detail }}</p>
  </li>
</template>

<style scoped>
.card {
  padding: var(--s12) 0;
  border-top: 1px solid var(--edge);
}
.card:first-child {
  border-top: 0;
}
.out b {
  text-decoration: line-through;
}
.head {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px minmax(0, 1.4fr);
  gap: var(--s12);
  align-items: center;
}
.head b {
  font-size: var(--t-lead);
}
.acts {
  display: flex;
  gap: var(--s20);
}
</style>
