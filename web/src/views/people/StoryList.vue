<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { api, told, type Story } from '../../api/client'
import { when } from '../../format/time'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import { useForm } from './useForm'

/** What was written of a part or of a ticket, by whom, when and from which bench; nothing in it can be rewritten. */
const { of, id, version = 0 } = defineProps<{ of: 'parts' | 'tickets'; id: string; version?: number }>()
const w = words.people
const lines = ref<Story['lines'] | null>(null)
const more = ref(false)
const open = ref(false)
const { wrong, busy, send } = useForm()
const here = useTemplateRef<HTMLElement>('here')

async function look(before?: number) {
  const params = { path: { id }, query: { before } }
  const got = await send(() =>
    told(
      of === 'parts'
        ? api.GET('/api/parts/{id}/story', { params })
        : api.GET('/api/tickets/{id}/story', { params }),
    ),
  )
  if (!got) return
  lines.value = before ? [...(lines.value ?? []), ...got.lines] : got.lines
  more.value = got.more
}
watch([() => id, () => version], () => open.value && void look())
// What was opened is in sight.
watch(open, async (opened) => {
  if (!opened) return
  await look()
  await nextTick()
  here.value?.scrollIntoView({ block: 'nearest' })
})
</script>

<template>
  <details ref="here" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>{{ w.story }}</summary>
    <p v-if="wrong" class="problem" role="alert">
      {{ wrong.detail }} <button class="link" @click="look()">{{ words.away.again }}</button>
    </p>
    <p v-else-if="!lines" class="note">{{ words.workshop.loading }}</p>
    <p v-else-if="!lines.length" class="note">{{ w.storyNone }}</p>
    <ol v-if="lines" class="rows">
      <li v-for="l in lines" :key="l.n">
        <span class="num note">{{ when(l.at) }}</span>
        <span
          ><b v-if="of === 'tickets' && l.part">{{ l.part }} </b>{{ said(l.text) }}</span
        >
        <span class="note">{{ l.by }}</span>
      </li>
    </ol>
    <button v-if="more" class="link" :disabled="busy" @click="look(lines?.at(-1)?.n)">{{ w.earlier }}</button>
  </details>
</template>

<style scoped>
li b {
  margin-right: var(--s6);
}
ol {
  max-height: var(--story-height, 320px);
  overflow-y: auto;
  scrollbar-width: thin;
}
li {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) minmax(0, 170px);
  gap: var(--s10);
  padding: var(--s4) 0;
  border-top: 1px solid var(--edge);
}
summary {
  min-height: 40px;
  display: list-item;
  cursor: pointer;
  color: var(--muted);
  padding: var(--s8) 0;
}
</style>
