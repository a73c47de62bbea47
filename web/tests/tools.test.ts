import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { createApp, defineComponent, h, nextTick, ref } from 'vue'
import { createMemoryHistory, createRouter, type Router } from 'vue-router'
import type { Lot } from '@/api/client'
import { useTyped } from '@/components/useTyped'
import { clockOf, soon, spanOf, when } from '@/format/time'
import type { Bench } from '@/views/bench/useBench'
import { useGoing, usePlace } from '@/views/bench/usePlace'
import { useDrawers } from '@/views/drawers/useDrawers'
import { leaves, parse } from '@/views/networks/sketch'
import { inView, problem, serve, until } from './server'

beforeEach(() => localStorage.clear())
afterEach(() => vi.useRealTimers())

test.each([
  ['180', '180'],
  ['180 + 47', { series: ['180', '47'] }],
  ['180, 47 , 10', { series: ['180', '47', '10'] }],
  ['180 | 3k3 + 47', { series: [{ parallel: ['180', '3k3'] }, '47'] }],
  ['180 ∥ (3k3 + 47)', { parallel: ['180', { series: ['3k3', '47'] }] }],
  ['(((1M)))', '1M'],
])('%s is a whole network', (line, network) => {
  expect(parse(line)).toEqual(network)
})

test.each(['', '180 +', '∥ 47', '(180 + 47', '180)', '180 (47)', '()', '180 + + 47'])(
  '"%s" is not whole yet',
  (line) => {
    expect(parse(line)).toBeNull()
  },
)

test('the parts of a network stand in the order in which they were typed', () => {
  const network = parse('1k ∥ (2k + 3k ∥ 4k) + 5k')
  expect(network && leaves(network)).toEqual(['1k', '2k', '3k', '4k', '5k'])
})

test('times are said as at a bench', () => {
  vi.useFakeTimers({ now: new Date(2031, 4, 6, 22, 30) })
  const at = (...t: [number, number, number, number, number]) => new Date(...t).toISOString()
  expect(when(at(2031, 4, 6, 14, 7))).toBe('14:07')
  expect(when(at(2031, 4, 5, 14, 7))).toBe('5 May, 14:07')
  expect(soon(at(2031, 4, 7, 0, 11))).toBe('00:11')
  expect(soon(at(2031, 4, 7, 20, 0))).toBe('7 May, 20:00')
  expect([-3, 0, 59.6, 372, 3845].map(clockOf)).toEqual(['00:00', '00:00', '01:00', '06:12', '1:04:05'])
  expect([0, 2700, 3569, 3571, 9000].map(spanOf)).toEqual([
    '0 min',
    '45 min',
    '59 min',
    '1 h 0 min',
    '2 h 30 min',
  ])
})

test('a form is read by the server, and a field that cannot be read is named', async () => {
  let wrong: Record<string, string> = { load: "'lots' is not a current" }
  const asked = serve(() => ({ body: { values: { load: { value: 0.09, text: '90 mA' } }, wrong } }))
  const form = useTyped()
  form.typed.load = 'lots'
  const fields = [
    { name: 'load', quantity: 'current' as const },
    { name: 'ripple', quantity: 'voltage' as const },
  ]
  expect(await form.read(fields)).toBeNull()
  expect(form.wrong.value).toEqual(wrong)
  expect(form.typed.load).toBe('lots')
  wrong = {}
  form.typed.load = '90 mA'
  expect(await form.read(fields)).toEqual({ load: { value: 0.09, text: '90 mA' } })
  expect(asked.at(-1)?.body).toEqual({
    fields: { load: { quantity: 'current', text: '90 mA' }, ripple: { quantity: 'voltage', text: '' } },
  })
})

const bench = () =>
  ({ connected: ref(true), workshopHeard: ref(0), tool: ref('drawers'), card: ref(null) }) as unknown as Bench
const lot = { id: 'l1', version: 3 } as Lot

test('the drawers are looked into again after each change, and what is wrong comes back to its field', async () => {
  let refuse = true
  const asked = serve(({ method }) =>
    method === 'PATCH' && refuse
      ? problem(422, "'heaps' is not a count", { field: 'count' })
      : { body: { lots: [], more: false } },
  )
  const { value: d, app } = inView(() => useDrawers(bench()))
  await until(() => d.found.value !== null)
  const said = await d.change(lot, { count: 'heaps' })
  expect([said?.field, d.failure.value, d.busy.value]).toEqual(['count', null, false])
  refuse = false
  expect(await d.change(lot, { count: '12' })).toBeNull()
  expect(asked.filter((a) => a.method === 'PATCH').at(-1)?.body).toEqual({
    version: 3,
    fields: { count: '12' },
  })
  expect(asked.at(-1)).toMatchObject({ method: 'GET', path: '/api/drawers' })
  app.unmount()
})

test('a drawer that somebody else changed, or a file that cannot be read, is said above the list', async () => {
  serve(({ method }) => (method === 'GET' ? { body: { lots: [] } } : problem(409, 'it was changed')))
  const { value: d, app } = inView(() => useDrawers(bench()))
  await until(() => d.found.value !== null)
  const said = await d.count(lot, -1)
  expect([said?.detail, d.failure.value?.detail]).toEqual(['it was changed', 'it was changed'])
  await d.read(new File(['colour,count'], 'wrong.csv'))
  expect([d.failure.value?.detail, d.imported.value, d.busy.value]).toEqual(['it was changed', null, false])
  app.unmount()
})

test('what is written out is what is shown, and another search begins on the first page', async () => {
  serve(() => ({ body: { lots: [] } }))
  const { value: d, app } = inView(() => useDrawers(bench()))
  d.more()
  d.more()
  expect([d.full(), d.address('export')]).toEqual([false, '/api/drawers/export?'])
  d.more()
  d.more()
  expect(d.full()).toBe(true)
  d.low.value = true
  d.kind.value = 'capacitor'
  await nextTick()
  expect(d.full()).toBe(false)
  expect(d.address('labels')).toBe('/api/drawers/labels?kind=capacitor&low=true')
  app.unmount()
})

async function at(address: string) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:ticket?/:part?/:step?', name: 'bench', component: { render: () => null } }],
  })
  await router.push(address)
  const made: { place?: ReturnType<typeof usePlace>; going?: ReturnType<typeof useGoing> } = {}
  const app = createApp(
    defineComponent({
      setup() {
        made.place = usePlace()
        made.going = useGoing(made.place, ref({ name: 'R9' }))
        return () => h('div')
      },
    }),
  )
  app.use(router).mount(document.createElement('div'))
  const { place, going } = made
  if (!place || !going) throw new Error('not mounted')
  return { place, going, router, app }
}
const path = (router: Router) => router.currentRoute.value.fullPath

test('where one is stands in the address: a tool, a stage of the job', async () => {
  const { place, router, app } = await at('/t1/R9/fit?tool=job&card=chart')
  expect([place.ticketId.value, place.partName.value, place.askedStep.value]).toEqual(['t1', 'R9', 'fit'])
  expect([place.tool.value, place.stage.value]).toEqual(['job', 'chart'])
  place.moveStage(1)
  await until(() => path(router) === '/t1/R9/fit?tool=job&card=feed')
  place.openStage('parts')
  expect(place.tool.value, 'at once, not when the address has followed').toBeNull()
  await until(() => path(router) === '/t1/R9/fit')
  place.moveStage(-1)
  await until(() => place.card.value === 'feed')
  app.unmount()
})

test('an address with nonsense opens the tray', async () => {
  const { place, app } = await at('/t1?tool=cellar&card=attic')
  expect([place.tool.value, place.stage.value, place.partName.value]).toEqual([null, 'parts', null])
  app.unmount()
})

test('going somewhere keeps what is not said, and a ticket opens without a part', async () => {
  const { going, router, app } = await at('/t1/R9/fit')
  going.go({ step: 'prove' })
  await until(() => path(router) === '/t1/R9/prove')
  going.select('C2')
  await until(() => path(router) === '/t1/C2')
  going.openTicket('t2')
  await until(() => path(router) === '/t2')
  app.unmount()
})
