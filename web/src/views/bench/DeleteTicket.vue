<script setup lang="ts">
import { ref } from 'vue'
import { api, took, type Ticket } from '../../api/client'
import { words } from '../../words/en'
import { useForm } from '../people/useForm'
import { useSession } from '../people/useSession'
import { useBench } from './useBench'
import { useRouter } from 'vue-router'

/** A ticket goes for good: its record is offered first, and it is asked once more. */
const { ticket } = defineProps<{ ticket: Ticket }>()
const emit = defineEmits<{ gone: [] }>()
const bench = useBench()
const router = useRouter()
const { accounts, person } = useSession()
const { wrong, busy, send } = useForm()
const asked = ref(false)

async function remove(confirmed: boolean) {
  const params = { path: { id: ticket.id }, query: { confirmed } }
  const done = await send(() => took(api.DELETE('/api/tickets/{id}', { params })))
  asked.value = wrong.value?.ask === true
  if (!done) return
  emit('gone')
  // Another one lies on the shelf, or none.
  const next = bench.onShelf.value.find((t) => t.id !== ticket.id)
  if (next) bench.openTicket(next.id)
  else void router.replace('/')
  await bench.refresh()
}
</script>

<template>
  <div v-if="!accounts || person?.role === 'owner'" class="delete">
    <button v-if="!wrong" type="button" class="link" @click="remove(false)">{{ words.ticket.remove }}</button>
    <p v-else class="problem" role="alert">{{ wrong.detail }}</p>
    <div v-if="asked" class="acts">
      <a class="link" :href="`/api/tickets/${ticket.id}/record.tar`" download>{{ words.ticket.record }}</a>
      <ElButton class="for-good" :loading="busy" @click="remove(true)">{{ words.ticket.remove }}</ElButton>
    </div>
  </div>
</template>

<style scoped>
.delete {
  margin-top: var(--s12);
}
.link {
  min-height: 40px;
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.acts {
  display: flex;
  align-items: center;
  gap: var(--s20);
  margin-top: var(--s8);
}
.problem,
.for-good {
  color: var(--replace);
}
</style>
