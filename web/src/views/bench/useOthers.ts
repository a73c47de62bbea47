import { onScopeDispose, ref, watch, type ComputedRef } from 'vue'
import { useDebounceFn, useDocumentVisibility } from '@vueuse/core'
import { connected, hearBenches, signedOut, type Other } from '../../api/client'

/** How long several things that another bench does at once are waited for, at most. */
const AT_ONCE = { wait: 120, maxWait: 800 }
/** The shelf of a large workshop changes all the time: looked at so often, in milliseconds. */
const SHELF = { wait: 1500, maxWait: 5000 }

/**
 * What the other benches do: heard while the page is in sight, and shown as it happens. A page out of sight hears
 * nothing, so that many windows do not use up the browser's connections; it looks when it comes back.
 */
export function useOthers(
  shown: ComputedRef<string | null>,
  position: () => string | null,
  look: { ticket: () => unknown; shelf: () => unknown; workshop: () => unknown },
) {
  const others = ref<Other[]>([])
  const visible = useDocumentVisibility()
  const ticket = useDebounceFn(look.ticket, AT_ONCE.wait, { maxWait: AT_ONCE.maxWait })
  const shelf = useDebounceFn(look.shelf, SHELF.wait, { maxWait: SHELF.maxWait })
  const workshop = useDebounceFn(look.workshop, AT_ONCE.wait, { maxWait: AT_ONCE.maxWait })
  let stop = () => {}

  watch(
    [shown, visible, connected, signedOut],
    ([id, state, up, out]) => {
      stop()
      stop = () => {}
      others.value = []
      if (!up || out || state !== 'visible') return
      stop = hearBenches(id, position(), (event) => {
        if (event.what === 'here') others.value = event.others
        else if (event.what === 'workshop') void workshop()
        else if (event.what === 'look') void Promise.all([ticket(), workshop()])
        else if (event.id === id) void ticket()
        else void shelf()
      })
    },
    { immediate: true },
  )
  onScopeDispose(() => stop())
  return others
}
