import { reactive, ref } from 'vue'
import { newKey, type Problem } from '../../api/client'
import type { Bench } from '../bench/useBench'

/**
 * Sends a form: one key for one content, so that a form sent again after a lost answer is taken
 * once; problems beside their fields; a question that the next press confirms.
 */
export function useSending(bench: Bench) {
  const problem = ref<Problem | null>(null)
  const busy = ref(false)
  const state = reactive({ key: newKey(), content: '' })

  const wrong = (field: string) => (problem.value?.field === field ? problem.value.detail : null)

  /** `content` names what is sent: when it changes, a question that was asked no longer counts. */
  async function send<T>(
    content: unknown,
    work: (how: { key: string; confirmed: boolean }) => Promise<T>,
  ): Promise<T | undefined> {
    if (busy.value) return undefined
    const written = JSON.stringify(content)
    if (written !== state.content) {
      state.content = written
      state.key = newKey()
      problem.value = null
    }
    busy.value = true
    const confirmed = problem.value?.ask === true
    const { done, problem: got } = await bench.change(() => work({ key: state.key, confirmed }))
    busy.value = false
    problem.value = got && got.status !== 409 ? got : null
    if (done) state.content = ''
    return done
  }

  return { problem, busy, wrong, send }
}
