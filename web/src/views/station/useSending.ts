import { reactive, ref } from 'vue'
import { newKey, type Problem } from '../../api/client'
import type { Bench } from '../bench/useBench'

interface How {
  key: string
  confirmed: boolean
}

/**
 * Sends a form: one key for one content, so that a form sent again after a lost answer is taken
 * once; problems beside their fields; a question that the next press confirms.
 */
export function useSending(bench: Bench) {
  const problem = ref<Problem | null>(null)
  const busy = ref(false)
  const state = reactive({ key: newKey(), content: '' })
  const waiting: string[] = []
  let onItsWay: Promise<void> = Promise.resolve()

  const wrong = (field: string) => (problem.value?.field === field ? problem.value.detail : null)

  /** `content` names what is sent: when it changes, a question that was asked no longer counts. */
  async function send<T>(content: unknown, work: (how: How) => Promise<T>): Promise<T | undefined> {
    const written = JSON.stringify(content)
    // The same form twice is one press too many; another one waits for the one on its way, and is not lost.
    if (waiting.at(-1) === written) return undefined
    const before = onItsWay
    let over = () => {}
    onItsWay = new Promise((done) => (over = done))
    waiting.push(written)
    busy.value = true
    if (waiting.length > 1) await before
    try {
      return await sendNow(written, work)
    } finally {
      waiting.shift()
      busy.value = waiting.length > 0
      over()
    }
  }
  async function sendNow<T>(written: string, work: (how: How) => Promise<T>): Promise<T | undefined> {
    if (written !== state.content) {
      state.content = written
      state.key = newKey()
      problem.value = null
    }
    const confirmed = problem.value?.ask === true
    const { done, problem: got } = await bench.change(() => work({ key: state.key, confirmed }))
    problem.value = got && got.status !== 409 ? got : null
    if (done) state.content = ''
    return done
  }

  return { problem, busy, wrong, send }
}
