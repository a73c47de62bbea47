import { computed, ref } from 'vue'
import { api, newKey, told, type Part } from '../../api/client'
import { words } from '../../words/en'
import type { Bench } from '../bench/useBench'
import type { Marking } from './useMarking'

/** Where a reading goes: on the selected part, or on a new one of the name that is typed. */
export function usePutOn(bench: Bench, m: Marking, needName: () => void) {
  const { answer, first } = m
  /** The selected part, where the reading is of its kind. */
  const fits = computed(() => {
    const p = bench.part.value
    return p && first.value && p.kind === first.value.part ? p : null
  })
  const name = ref('')
  const refused = ref<string | null>(null)
  const key = ref(newKey())

  function mark(reading: number) {
    return { question: { ...m.question.value }, reading }
  }
  /** What was asked before a mark that was known becomes another; the next press on the same confirms it. */
  let asked = ''
  /** Puts a reading on the selected part. */
  async function putOn(reading: number) {
    const p = fits.value
    if (!p) return
    const chosen = mark(reading)
    const confirmed = asked === JSON.stringify(chosen)
    const body = { version: p.version, mark: chosen, confirmed }
    const problem = await taken(() =>
      told(api.PATCH('/api/parts/{id}', { params: { path: { id: p.id } }, body })),
    )
    asked = problem?.ask ? JSON.stringify(chosen) : ''
  }
  /** Starts a part of the name that was typed. */
  async function start(reading: number) {
    const ticket = bench.ticketId.value
    const chosen = answer.value?.[reading]
    if (!ticket || !chosen) return
    const called = name.value.trim()
    if (!called) {
      refused.value = `${words.reader.needName} ${chosen.part}`
      needName()
      return
    }
    const body = { id: key.value, name: called, mark: mark(reading) }
    await taken(() => told(api.POST('/api/tickets/{id}/parts', { params: { path: { id: ticket } }, body })))
  }
  async function taken(work: () => Promise<Part>) {
    refused.value = null
    const { done, problem } = await bench.change(work)
    if (done) {
      key.value = newKey()
      bench.select(done.name)
    } else if (problem && !problem.away) refused.value = problem.detail
    return problem
  }

  return { fits, name, refused, putOn, start }
}
