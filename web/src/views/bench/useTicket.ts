import { computed, ref, shallowRef, type ComputedRef } from 'vue'
import {
  api,
  Problem,
  told,
  type Changed,
  type Part,
  type Strip,
  type Ticket,
  type ShelfTicket,
  type Written,
} from '../../api/client'

/**
 * The shelf, the open ticket with its strips, and everything about the part in hand. A write answers with what it
 * changed, and that is put in its place; the ticket is not fetched again.
 */
export function useTicket(ticketId: ComputedRef<string | null>, partName: ComputedRef<string | null>) {
  const shelf = ref<ShelfTicket[] | null>(null)
  const ticket = ref<Ticket | null>(null)
  const detail = shallowRef<Part | null>(null)
  const missing = ref<string | null>(null)
  const conflict = ref<{ detail: string; changed: Changed[] } | null>(null)

  /** The part in hand as the tray shows it. */
  const strip = computed<Strip | null>(() => {
    const parts = ticket.value?.parts ?? []
    return parts.find((p) => p.name === partName.value) ?? parts[0] ?? null
  })
  /** The same with everything that is known of it; null until that has come. */
  const part = computed<Part | null>(() => (detail.value?.id === strip.value?.id ? detail.value : null))

  /** Up to where everything of the other benches is in what is shown. */
  let position: string | null = null
  /** Answers are shown in the order in which they were asked for, and none from before what was written here. */
  let [fetched, shown, written] = [0, 0, 0]

  let asked = 0
  /** Fetches what is known of the part in hand; a failure leaves on the screen what is there. */
  async function fetchPart() {
    const id = strip.value?.id
    if (!id) {
      detail.value = null
      return
    }
    const mine = ++asked
    try {
      const got = await told(api.GET('/api/parts/{id}', { params: { path: { id } } }))
      // Another one may be in hand by now, whose own answer is here already.
      if (mine === asked && strip.value?.id === id) detail.value = got
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (e.status === 404) missing.value = e.detail
    }
  }

  async function fetchShelf() {
    shelf.value = await told(api.GET('/api/tickets'))
  }

  async function fetchTicket() {
    const id = ticketId.value
    if (!id) {
      ticket.value = null
      return
    }
    const mine = ++fetched
    const before = written
    const asked = api.GET('/api/tickets/{id}', { params: { path: { id } } })
    const got = await told(asked)
    // Another ticket is open by now, or a later answer is here already.
    if (ticketId.value !== id || mine < shown) return
    // Something was written here meanwhile: this may be how it was before.
    if (written !== before) return fetchTicket()
    shown = mine
    position = (await asked).response.headers.get('x-owl-position')
    ticket.value = got
    missing.value = null
    await fetchPart()
  }

  /** Puts a strip in its place on the tray. */
  function put(strips: Strip[], one: Strip) {
    const at = strips.findIndex((p) => p.id === one.id)
    if (at >= 0) {
      strips[at] = one
      return
    }
    const behind = strips.findIndex((p) => p.order > one.order)
    strips.splice(behind < 0 ? strips.length : behind, 0, one)
  }

  /** Shows what a write has changed. */
  function apply(done: Written) {
    written++
    const { neighbours, shelf: line, ticket_version: version, ...whole } = done
    if (ticket.value && line.id === ticket.value.id) {
      put(ticket.value.parts, whole)
      for (const n of neighbours) put(ticket.value.parts, n)
    }
    const at = shelf.value?.findIndex((t) => t.id === line.id) ?? -1
    if (shelf.value && at >= 0) shelf.value[at] = line
    if (strip.value?.id === whole.id) {
      asked++
      detail.value = whole
    } else void fetchPart()
    // Something was said of the whole set: any of its parts may stand otherwise.
    if (ticket.value?.id === line.id && ticket.value.version !== version) void fetchTicket()
  }

  return {
    shelf,
    ticket,
    strip,
    part,
    missing,
    conflict,
    detail,
    fetchPart,
    fetchShelf,
    fetchTicket,
    position: () => position,
    apply,
  }
}

/** Whether an answer says what it changed, itself or in a part of it. */
export function writtenIn(answer: unknown): Written | null {
  const of = (x: unknown) => (x && typeof x === 'object' && 'neighbours' in x ? (x as Written) : null)
  return of(answer) ?? of((answer as { written?: unknown } | null)?.written)
}
