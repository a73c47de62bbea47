import { useSessionStorage } from '@vueuse/core'
import { computed, type WritableComputedRef } from 'vue'

/**
 * What is typed and not sent yet: it outlives leaving the step, the part and the page, until it is
 * sent. A draft that was made for another version of the part is not offered again.
 */
export function useDraft(key: string, version: number, initial = ''): WritableComputedRef<string> {
  const kept = useSessionStorage<{ version: number; text: string } | null>(`draft:${key}`, null, {
    serializer: { read: (raw) => JSON.parse(raw), write: (value) => JSON.stringify(value) },
  })
  return computed({
    get: () => (kept.value?.version === version ? kept.value.text : initial),
    set: (text) => (kept.value = text === initial ? null : { version, text }),
  })
}
