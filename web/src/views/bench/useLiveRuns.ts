import { ref } from 'vue'
import { useIntervalFn } from '@vueuse/core'
import { api, Problem, told, type Desk } from '../../api/client'

/** The reforming runs that have volts on them, or were not proven empty yet: looked at every few seconds, on every screen. */
export function useLiveRuns() {
  const live = ref<Desk['queue']>([])
  async function look() {
    try {
      const { queue } = await told(api.GET('/api/reform/desk'))
      live.value = queue.filter((r) => r.charged)
    } catch (e) {
      // What was known to have volts on it stays so until the database says otherwise.
      if (!(e instanceof Problem)) throw e
    }
  }
  void look()
  useIntervalFn(() => void look(), 5000)
  return live
}
