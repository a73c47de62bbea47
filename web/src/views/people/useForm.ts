import { ref } from 'vue'
import { Problem } from '../../api/client'

/** Sending a small form: what is wrong stands beside its field, and it is sent once at a time. */
export function useForm() {
  const wrong = ref<Problem | null>(null)
  const busy = ref(false)
  /** What is wrong with a field; without a name, what is wrong with none of them. */
  const at = (field: string | null) =>
    wrong.value && (wrong.value.field ?? null) === field ? wrong.value.detail : null

  async function send<T>(work: () => Promise<T>): Promise<T | null> {
    if (busy.value) return null
    busy.value = true
    wrong.value = null
    try {
      return await work()
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      wrong.value = e
      return null
    } finally {
      busy.value = false
    }
  }
  return { wrong, busy, at, send }
}
