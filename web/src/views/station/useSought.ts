import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api, Problem, told, type Substitutes } from '../../api/client'

/** What somebody looks for among what must not go in for a part, as typed: `68u`, `0.022 400`, `row 3`. */
export function useSought(part: string) {
  const sought = ref('')
  /** What was found; null where nothing is looked for. */
  const found = ref<Substitutes['refused'] | null>(null)
  const problem = ref<string | null>(null)
  const busy = ref(false)
  let asked = 0

  async function look() {
    const mine = ++asked
    const refused = sought.value.trim()
    if (!refused) {
      found.value = problem.value = null
      return
    }
    busy.value = true
    try {
      const got = await told(
        api.GET('/api/parts/{id}/substitutes', { params: { path: { id: part }, query: { refused } } }),
      )
      if (mine !== asked) return
      found.value = got.refused
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine === asked) problem.value = e.detail
    } finally {
      if (mine === asked) busy.value = false
    }
  }
  const soon = useDebounceFn(look, 200)
  watch(sought, () => void soon())

  return { sought, found, problem, busy }
}
