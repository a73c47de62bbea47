import { computed, ref, watch, type Ref } from 'vue'
import { Problem } from '../../api/client'
import { useBench } from '../bench/useBench'

/** What a stage of the job shows: fetched when the ticket changes or is changed, kept while nobody answers. */
export function useStage<T>(load: (ticket: string) => Promise<T>) {
  const bench = useBench()
  const data = ref(null) as Ref<T | null>
  const problem = ref<Problem | null>(null)
  const ticket = computed(() => bench.ticket.value?.id ?? null)

  async function fetch() {
    const id = ticket.value
    if (!id) return
    try {
      const got = await load(id)
      if (ticket.value === id) data.value = got
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    }
  }
  watch([ticket, bench.connected, bench.heard, bench.charted], () => void fetch(), { immediate: true })
  return { data, problem, ticket, fetch }
}
