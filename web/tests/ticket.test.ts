import { expect, test, vi } from 'vitest'
import { computed, ref } from 'vue'
import { connected, Problem, type Part, type Strip, type Written } from '@/api/client'
import { useTicket, writtenIn } from '@/views/bench/useTicket'
import { useTrayOrder } from '@/views/bench/useTrayOrder'
import type { Bench } from '@/views/bench/useBench'
import { problem, serve } from './server'

const strip = (name: string, more: Partial<Strip> = {}) =>
  ({
    id: `id-${name}`,
    name,
    version: 1,
    group: [],
    urgency: 0,
    order: `0${name}`,
    to_measure: false,
    kind: 'resistor',
    status: 'judged',
    ...more,
  }) as Strip
const line = {
  id: 't1',
  name: 'Heron',
  class: 'valves, battery',
  parts: 2,
  left: '1 to measure',
  closed: false,
}
const written = (part: Strip, neighbours: Strip[] = []) =>
  ({
    ...part,
    readings: [],
    neighbours,
    shelf: { ...line, left: 'all done' },
    ticket_version: 4,
  }) as unknown as Written

async function opened(parts: Strip[], selected: string) {
  const asked = serve(({ path }) => {
    if (path === '/api/tickets') return { body: [line] }
    if (path === '/api/tickets/t1')
      return { body: { id: 't1', version: 4, name: 'Heron', cautions: [], parts } }
    const part = parts.find((p) => path === `/api/parts/${p.id}`)
    return part ? { body: { ...part, readings: [] } } : problem(404, 'this part is not there')
  })
  const name = ref<string | null>(selected)
  const t = useTicket(
    computed(() => 't1'),
    computed(() => name.value),
  )
  await t.fetchShelf()
  await t.fetchTicket()
  return { t, asked, name }
}

test('opening a ticket fetches its strips and the part in hand, and nothing of the others', async () => {
  const { t, asked } = await opened([strip('R1'), strip('R2')], 'R2')
  expect(asked.map((a) => a.path)).toEqual(['/api/tickets', '/api/tickets/t1', '/api/parts/id-R2'])
  expect(t.part.value?.name).toBe('R2')
})

test('a write puts the part, its neighbours and the counts in place without fetching the ticket again', async () => {
  const { t, asked } = await opened([strip('R1'), strip('R2'), strip('R3')], 'R1')
  const before = asked.length
  const untouched = t.ticket.value?.parts[2]
  t.apply(written(strip('R1', { version: 2, urgency: 8 }), [strip('R2', { urgency: 4 })]))
  expect(asked.length).toBe(before)
  expect(t.ticket.value?.parts.map((p) => p.urgency)).toEqual([8, 4, 0])
  expect(t.ticket.value?.parts[2]).toBe(untouched)
  expect([t.part.value?.version, t.shelf.value?.[0]?.left]).toEqual([2, 'all done'])
})

test('what was said of the whole set lets the ticket be fetched again: any part may stand otherwise', async () => {
  const { t, asked } = await opened([strip('R1'), strip('R2')], 'R1')
  const before = asked.length
  t.apply({ ...written(strip('R1')), ticket_version: 5 })
  await vi.waitFor(() => expect(asked.slice(before).map((a) => a.path)).toContain('/api/tickets/t1'))
})

test('a new part takes its place in the order of the tray', async () => {
  const { t } = await opened([strip('R1'), strip('R3')], 'R1')
  t.apply(written(strip('R2')))
  t.apply(written(strip('R9'), [strip('R5')]))
  expect(t.ticket.value?.parts.map((p) => p.name)).toEqual(['R1', 'R2', 'R3', 'R5', 'R9'])
})

test('what was written on another ticket changes only the shelf', async () => {
  const { t } = await opened([strip('R1')], 'R1')
  const elsewhere = { ...written(strip('C4')), shelf: { ...line, id: 't2' } } as unknown as Written
  t.apply(elsewhere)
  expect(t.ticket.value?.parts.map((p) => p.name)).toEqual(['R1'])
})

test('an answer about a part that is left meanwhile does not come over the next one', async () => {
  const { t, name } = await opened([strip('R1'), strip('R2')], 'R1')
  let first: (r: Response) => void = () => {}
  let calls = 0
  vi.stubGlobal('fetch', () =>
    ++calls === 1
      ? new Promise<Response>((r) => (first = r))
      : Promise.resolve(
          new Response(JSON.stringify(strip('R2')), { headers: { 'content-type': 'application/json' } }),
        ),
  )
  const slow = t.fetchPart()
  name.value = 'R2'
  await t.fetchPart()
  first(new Response(JSON.stringify(strip('R1')), { headers: { 'content-type': 'application/json' } }))
  await slow
  expect(t.part.value?.name).toBe('R2')
})

test('while nobody answers the part stays as it was', async () => {
  const { t } = await opened([strip('R1')], 'R1')
  serve(() => 'nobody')
  await t.fetchPart()
  expect(t.part.value?.name).toBe('R1')
  expect(connected.value).toBe(false)
  connected.value = true
  await expect(t.fetchTicket()).rejects.toThrow(Problem)
})

test('an answer that says what it changed is told from one that does not', () => {
  const w = written(strip('R1'))
  expect(writtenIn(w)).toBe(w)
  expect(writtenIn({ part_id: 'x', written: w })).toBe(w)
  expect([writtenIn({ parts: [] }), writtenIn(null), writtenIn(undefined)]).toEqual([null, null, null])
})

test('the tray shows what is asked for, in the order that is asked for, groups together', () => {
  const tied = { group: [{ id: 'id-R9', name: 'R9' }] }
  const parts = [
    strip('R1', { urgency: 2 }),
    strip('R2', { urgency: 9, ...tied }),
    strip('C1', { to_measure: true }),
    strip('R9', { urgency: 1, group: [{ id: 'id-R2', name: 'R2' }] }),
  ]
  const bench = { ticket: ref({ parts }), workshop: ref(null) } as unknown as Bench
  const tray = useTrayOrder(bench)
  const names = () => tray.parts.value.map((p: Strip | Part) => p.name)
  tray.order.value = 'sheet'
  expect(names()).toEqual(['R1', 'R2', 'R9', 'C1'])
  tray.turn()
  expect(names()).toEqual(['R2', 'R9', 'R1', 'C1'])
  tray.toMeasure.value = true
  expect(names()).toEqual(['C1'])
  tray.toMeasure.value = false
  tray.filter.value = 'r9 judged'
  expect(names()).toEqual(['R9'])
})

test('an answer from before what was written here is not shown', async () => {
  const { t } = await opened([strip('R1')], 'R1')
  const old = { id: 't1', version: 4, name: 'Heron', cautions: [], parts: [strip('R1')] }
  const now = { ...old, parts: [strip('R1', { version: 2 })] }
  const go: (() => void)[] = []
  const asked = serve(async ({ path }) => {
    if (path !== '/api/tickets/t1') return { body: { ...strip('R1', { version: 2 }), readings: [] } }
    if (go.length) return { body: now }
    await new Promise<void>((done) => go.push(done))
    return { body: old }
  })
  // Another bench did something; while its ticket is on the way, something is written here.
  const looking = t.fetchTicket()
  await vi.waitFor(() => expect(go).toHaveLength(1))
  t.apply(written(strip('R1', { version: 2 })))
  go[0]?.()
  await looking
  expect(t.ticket.value?.parts[0]?.version).toBe(2)
  expect(asked.filter((a) => a.path === '/api/tickets/t1')).toHaveLength(2)
})
