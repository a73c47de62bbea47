import { watchDebounced } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import { api, Problem, told, type ProofOutcome } from '../api/client'

/** What the sentence of a proof says of the set while it is typed; null where it does not say it, or says two things. */
export function useProofHeard(seen: Ref<string>) {
  const heard = ref<ProofOutcome | null>(null)
  async function hear(): Promise<ProofOutcome | null> {
    const sentence = seen.value.trim()
    try {
      const got = sentence ? await told(api.POST('/api/proofs/heard', { body: { seen: sentence } })) : null
      // What is typed by now was heard otherwise.
      if (sentence === seen.value.trim()) heard.value = got?.outcome ?? null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      heard.value = null
    }
    return heard.value
  }
  watchDebounced(seen, hear, { debounce: 120, immediate: true })
  return { heard, hear }
}
