import { computed, ref } from 'vue'
import { api, Problem, signedOut, told, took, type Session } from '../../api/client'

/** Who is at the bench: one for the whole page. */
const session = ref<Session | null>(null)
const problem = ref<Problem | null>(null)

/** The link that somebody came by, read before the router puts the address in order. */
export const link = location.pathname === '/welcome' ? location.hash.slice(1) : ''

export function useSession() {
  /** Asks who is there; without an answer the page says that nobody answers. */
  async function ask() {
    try {
      session.value = await told(api.GET('/api/session'))
      signedOut.value = session.value.access === 'accounts' && !session.value.person
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    }
  }
  async function leave() {
    await took(api.DELETE('/api/session'))
    location.assign('/')
  }
  const person = computed(() => session.value?.person ?? null)
  /** Whether people sign in here at all. */
  const accounts = computed(() => session.value?.access === 'accounts')
  return { session, problem, person, accounts, ask, leave }
}
