import { ElMessage } from 'element-plus'
import { ref, watch, type Ref } from 'vue'
import { api, Problem, told, type Deed } from '../../api/client'
import { words } from '../../words/en'

/** What was done last on the open ticket, and taking it back: one key, ten steps deep. */
export function useDeeds(ticketId: Ref<string | null>, changed: (part: string | null) => Promise<void>) {
  const deed = ref<Deed | null>(null)
  /** Undos wait their turn: one that is asked for while another is on its way is not dropped. */
  let turn = Promise.resolve()

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

  function undo() {
    const id = ticketId.value
    if (id) turn = turn.catch(() => undefined).then(() => takeBack(id))
    return turn
  }

  async function takeBack(id: string) {
    if (ticketId.value !== id) return
    const last = deed.value
    if (!last) {
      ElMessage({ message: words.undo.nothing, duration: 2000 })
      return
    }
    try {
      const body = { deed: last.id }
      const got = await told(api.POST('/api/tickets/{id}/deeds/undo', { params: { path: { id } }, body }))
      if (ticketId.value === id) deed.value = got.last ?? null
      ElMessage({ message: `${words.undo.done} ${last.what}`, type: 'success', duration: 2500 })
      await changed(last.part_id ?? null)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (!e.away) ElMessage({ message: e.detail, type: 'warning', duration: 4000 })
      await look()
    }
  }
  return { deed, look, undo }
}
