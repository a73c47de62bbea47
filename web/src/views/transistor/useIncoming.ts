import { computed, ref, watch } from 'vue'
import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import {
  api,
  newKey,
  Problem,
  told,
  type Inspection,
  type InspectionAnswer,
  type InspectionDesk,
} from '../../api/client'
import type { Bench } from '../bench/useBench'

interface Draft {
  key: string
  type: string
  from: string
  note: string
  answers: Record<string, { seen: string; bought: string; known: string }>
}

/** A bought part as it is looked at: the answers that were typed, and what they say. */
export function useIncoming(bench: Bench) {
  const fresh = (): Draft => ({ key: newKey(), type: '', from: '', note: '', answers: {} })
  const draft = useSessionStorage<Draft>('draft:inspection', fresh())
  const lines = ref<InspectionDesk | null>(null)
  const found = ref<Inspection | null>(null)
  const problem = ref<Problem | null>(null)
  const busy = ref(false)

  function answer(look: string) {
    draft.value.answers[look] ??= { seen: '', bought: '', known: '' }
    return draft.value.answers[look]
  }
  const answers = computed<InspectionAnswer[]>(() =>
    Object.entries(draft.value.answers).map(([look, a]) => ({
      look: look as InspectionAnswer['look'],
      seen: (a.seen || null) as InspectionAnswer['seen'],
      bought: a.bought,
      known: a.known,
    })),
  )
  async function attempt(work: () => Promise<void>) {
    try {
      await work()
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e.away ? null : e
    }
  }
  const look = () =>
    attempt(async () => {
      lines.value = await told(api.GET('/api/transistors/inspections'))
    })
  const judge = () =>
    attempt(async () => {
      found.value = await told(
        api.POST('/api/transistors/inspect', { body: { type: draft.value.type, answers: answers.value } }),
      )
    })
  const soon = useDebounceFn(judge, 200)
  watch(draft, () => void soon(), { deep: true })
  watch(
    () => bench.connected.value,
    () => {
      void look()
      void judge()
    },
    { immediate: true },
  )
  async function keep() {
    busy.value = true
    await attempt(async () => {
      const d = draft.value
      await told(
        api.POST('/api/transistors/inspections', {
          body: {
            key: d.key,
            question: { type: d.type, answers: answers.value },
            bought_from: d.from,
            note: d.note,
          },
        }),
      )
      draft.value = fresh()
      found.value = null
      await look()
    })
    busy.value = false
  }

  return { draft, lines, found, problem, busy, answer, answers, keep }
}
