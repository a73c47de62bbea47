import { ElMessage } from 'element-plus'
import { ref, watch, type Ref } from 'vue'
import { api, Problem, told, type Deed } from '../../api/client'
import { words } from '../../words/en'

/** What was done last on the open ticket, and taking it back: one key, ten steps deep. */
export function useDeeds(ticketId: Ref<string | null>, changed: (part: string | null) => Promise<void>) {
  const deed = ref<Deed | null>(null)
  let busy = false

  async function look() {
    const id = ticketId.value
    if (!id) {
      deed.value = null
      return
    }
    try {
      const got = await told(api.GET('/api/tickets/{id}/deeds', { params: { path: { id } } }))
      if (ticketId.value === id) deed.value = got.last ?? null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
    }
  }
  watch(ticketId, look)

  async function undo() {
    const id = ticketId.value
    const last = deed.value
    if (!id || busy) return
    if (!last) {
      ElMessage({ message: words.undo.nothing, duration: 2000 })
      return
    }
    busy = true
    try {
      const body = { deed: last.id }
      const got = await told(api.POST('/api/tickets/{id}/deeds/undo', { params: { path: { id } }, body }))
      deed.value = got.last ?? null
      ElMessage({ message: `${words.undo.done} ${last.what}`, type: 'success', duration: 2500 })
      await changed(last.part_id ?? null)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (!e.away) ElMessage({ message: e.detail, type: 'warning', duration: 4000 })
      await look()
    } finally {
      busy = false
    }
  }
  return { deed, look, undo }
}
