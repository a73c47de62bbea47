import { beforeEach, expect, test } from 'vitest'
import { createApp, h, nextTick, reactive, ref } from 'vue'
import type { Instrument, Part } from '@/api/client'
import { useFit } from '@/views/station/useFit'
import { useMeasure } from '@/views/station/useMeasure'
import { useReform } from '@/views/reform/useReform'
import { provideDesk } from '@/views/transistor/useDesk'
import { useEquivalents } from '@/views/transistor/useEquivalents'
import { useIdentify } from '@/views/transistor/useIdentify'
import * as benches from '@/views/bench/useBench'
import { vi } from 'vitest'
import { inView, problem, serve, until, type Answer, type Asked } from './server'

let answer: (asked: Asked) => Answer
beforeEach(() => {
  sessionStorage.clear()
  localStorage.clear()
  answer = () => ({ body: {} })
})

const part = reactive({
  id: 'p1',
  version: 4,
  kind: 'capacitor',
  measured: null,
  tester_setting: 'film',
  safety_classes: [],
  readings: [] as object[],
  readable: [
    { called: 'capacitance', quantities: ['capacitance'] },
    { called: 'leakage', quantities: ['leakage_current', 'leakage_resistance'] },
  ],
}) as unknown as Part
const way = (id: string, quantity: string, more: object = {}) => ({
  id,
  name: id,
  quantity,
  mode: 'dc',
  ...more,
})
const instruments = [
  { name: 'Bridge', retired: false, ways: [way('w1', 'capacitance', { mode: 'ac' })] },
  { name: 'Old tester', retired: true, ways: [way('w0', 'leakage_current')] },
  {
    name: 'Tester',
    retired: false,
    ways: [
      way('w2', 'leakage_current', { setting: 'electrolytic' }),
      way('w3', 'leakage_current', { setting: 'film' }),
    ],
  },
] as unknown as Instrument[]

function bench() {
  const wentTo: object[] = []
  const made = {
    workshop: ref({ instruments }),
    handed: ref(null as object | null),
    connected: ref(true),
    go: (to: object) => wentTo.push(to),
    refreshWorkshop: () => Promise.resolve(),
    change: async (work: () => Promise<unknown>) => {
      try {
        return { done: await work() }
      } catch (e) {
        return { problem: e }
      }
    },
    wentTo,
  }
  return made as unknown as benches.Bench & { wentTo: object[] }
}

test('what nobody has read yet is read next, with the function that belongs to such a part', async () => {
  serve((a) => answer(a))
  const { value: m } = inView(() => useMeasure(bench(), () => part))
  expect([m.reading.value.called, m.wayId.value, m.wantsHertz.value, m.wantsVolts.value]).toEqual([
    'capacitance',
    'w1',
    true,
    false,
  ])
  part.readings = [
    { quantity: 'capacitance', before_fitting: false, voided: null },
  ] as unknown as Part['readings']
  expect([m.reading.value.called, m.wayId.value, m.wantsVolts.value]).toEqual(['leakage', 'w3', true])
  m.wayId.value = 'w2'
  expect(m.ways.value.map((w) => w.id)).toEqual(['w2', 'w3'])
  expect(m.wayId.value).toBe('w2')
  part.readings = []
})

test('a reading that is refused stays typed, and one that is taken does not', async () => {
  const asked = serve((a) => answer(a))
  const { value: m } = inView(() => useMeasure(bench(), () => part))
  answer = ({ path }) =>
    path.endsWith('/readings') ? problem(422, 'no number', { field: 'typed' }) : { body: { warnings: [] } }
  m.typed.value = 'lots'
  expect(await m.take()).toBe(false)
  expect([m.typed.value, m.wrong('typed')]).toEqual(['lots', 'no number'])
  answer = () => ({ body: { warnings: [] } })
  m.typed.value = '.047'
  expect(await m.take()).toBe(true)
  expect(m.typed.value).toBe('')
  const sent = asked.filter((a) => a.path === '/api/parts/p1/readings').at(-1)?.body
  expect(sent).toMatchObject({ typed: '.047', quantity: 'capacitance', way: 'w1', test_voltage: '' })
})

test('an instrument fills the form and takes nothing; what it refuses is said', async () => {
  const asked = serve((a) => answer(a))
  answer = ({ path }) =>
    path.endsWith('/meter')
      ? { body: { typed: '0.1u', way: 'w1', words: 'shows 0.1 µF' } }
      : { body: { warnings: [] } }
  const { value: m } = inView(() => useMeasure(bench(), () => part))
  expect(await m.fromMeter()).toBe(true)
  expect([m.typed.value, m.said.value, m.asking.value]).toEqual(['0.1u', 'shows 0.1 µF', false])
  answer = ({ path }) =>
    path.endsWith('/meter') ? problem(422, 'it does not answer') : { body: { warnings: [] } }
  expect(await m.fromMeter()).toBe(false)
  expect([m.refused.value, asked.some((a) => a.path.endsWith('/readings'))]).toEqual([
    'it does not answer',
    false,
  ])
})

const choice = (more: object = {}) => ({
  description: '47 nF film',
  kind: 'capacitor',
  family: 'polyester',
  from: 'drawers',
  needs_test: false,
  pieces: [{ lot: 'l1', description: '47 nF film' }],
  entry: { value: '47 nF', tolerance: '5 %', watts: '', volts: '630 V', type_number: '', safety: null },
  ...more,
})

test('the first choice is filled in; fitting sends its pieces and goes to the proof', async () => {
  const asked = serve((a) => answer(a))
  answer = ({ path }) =>
    path.endsWith('/substitutes')
      ? { body: { choices: [choice(), choice({ from: 'to buy' })], refused: [], facts: [], advice: [] } }
      : { body: {} }
  const b = bench()
  const { value: f } = inView(() => useFit(b, () => part))
  await until(() => f.answer.value !== null)
  expect([f.form.value, f.form.volts, f.form.family]).toEqual(['47 nF', '630 V', 'polyester'])
  await f.fit()
  const sent = asked.find((a) => a.path.endsWith('/fittings'))?.body
  expect(sent).toMatchObject({ description: '47 nF film', pieces: [{ lot: 'l1' }], version: 4, safety: null })
  expect(b.wentTo).toEqual([{ step: 'prove' }])
})

test('what is typed by hand has nothing of the choice before, and is kept while another is looked at', async () => {
  const asked = serve((a) => answer(a))
  const x2 = choice({ from: 'to buy', entry: { ...choice().entry, safety: 'X2' } })
  answer = ({ path }) =>
    path.endsWith('/substitutes')
      ? { body: { choices: [x2, choice()], refused: [], facts: [], advice: [] } }
      : { body: {} }
  const { value: f } = inView(() => useFit(bench(), () => part))
  await until(() => f.form.safety === 'X2')
  f.choose(-1)
  expect([f.form.safety, f.form.value, f.form.volts]).toEqual([null, '', ''])
  f.form.description = '47n 63V film'
  f.choose(0)
  expect(f.form.safety).toBe('X2')
  f.choose(-1)
  expect(f.form.description).toBe('47n 63V film')
  await f.fit()
  expect(asked.find((a) => a.path.endsWith('/fittings'))?.body).toMatchObject({ safety: null, pieces: [] })
})

test('what must be said first is asked, and what was typed stays', async () => {
  serve((a) => answer(a))
  answer = ({ path }) =>
    path.endsWith('/substitutes')
      ? { body: { choices: [], refused: [], facts: [], advice: [] } }
      : problem(422, 'C6 is not proven', { field: 'over_open' })
  const { value: f } = inView(() => useFit(bench(), () => part))
  await until(() => f.answer.value !== null)
  expect(f.picked.value).toBe(-1)
  f.form.description = 'a film part'
  await f.fit()
  expect([f.asked.value, f.form.description]).toEqual(['C6 is not proven', 'a film part'])
})

test('a network that was found for a part is what goes in', async () => {
  const asked = serve((a) => answer(a))
  answer = () => ({ body: { choices: [choice()], refused: [], facts: [], advice: [] } })
  const b = bench()
  b.handed.value = {
    part: 'p1',
    description: 'two in series',
    value: '94k',
    family: null,
    pieces: [{ lot: 'l7', description: 'a' }],
  }
  const { value: f } = inView(() => useFit(b, () => part))
  await until(() => f.answer.value !== null)
  expect([f.picked.value, f.form.description, b.handed.value]).toEqual([-1, 'two in series', null])
  await f.fit()
  expect(asked.find((a) => a.path.endsWith('/fittings'))?.body).toMatchObject({ pieces: [{ lot: 'l7' }] })
})

/** Within the transistor desk of a part, or of none. */
function atDesk<T>(part: Part | null, use: () => T): T {
  let value = undefined as T
  const page = {
    setup() {
      value = use()
      return () => h('i')
    },
  }
  const desk = {
    setup() {
      provideDesk(part)
      return () => h(page)
    },
  }
  createApp(desk).mount(document.createElement('div'))
  return value
}

test('the desk of a part starts with what the tray knows of it, gives back what is found, and keeps to itself', async () => {
  const fact = (name: string, text: string) => ({ fact: name, text })
  // What it asks a moment later is asked in nobody's test.
  vi.useFakeTimers()
  const q7 = {
    id: 'q7',
    name: 'Q7',
    kind: 'transistor',
    version: 4,
    type_number: 'AC151',
    stage: 'small signal',
    facts: [fact('rail', '9 V')],
  } as unknown as Part
  const b = { ...bench(), part: ref(q7) } as unknown as benches.Bench
  vi.spyOn(benches, 'useBench').mockReturnValue(b)
  const asked = serve((a) => answer(a))
  answer = ({ path }) =>
    path.endsWith('/values')
      ? { body: { values: {}, wrong: {} } }
      : { body: { candidates: [], same: [], facts: ['rail', 'load_resistance'] } }
  const e = atDesk(q7, () => useEquivalents())
  expect([e.typed.supply, e.typed.current, e.form.stage]).toEqual(['9 V', '', 'small signal'])
  expect(e.unkept.value).toBeNull()
  e.typed.current = '40 mA'
  expect(e.unkept.value).toEqual({ facts: { peak_current: '40 mA' } })
  e.form.stage = 'driver'
  await e.keep()
  const sent = asked.find((a) => a.method === 'PATCH')
  expect([sent?.path, sent?.body]).toEqual([
    '/api/parts/q7',
    { version: 4, stage: 'driver', facts: { peak_current: '40 mA' } },
  ])
  // Another part's desk has its own; six readings of one never stand at another.
  const q8 = { ...q7, id: 'q8', name: 'Q8', facts: [], stage: null } as unknown as Part
  Object.assign(b, { part: ref(q8) })
  const other = atDesk(q8, () => useEquivalents())
  expect([other.typed.supply, other.form.stage]).toEqual(['', ''])
  atDesk(q7, () => useIdentify()).take('.18')
  await nextTick()
  expect(atDesk(q8, () => useIdentify()).draft.value.typed[0]).toBe(null)
  expect(atDesk(q7, () => useIdentify()).draft.value.typed[0]).toBe('.18')
  vi.clearAllTimers()
  vi.useRealTimers()
})

test('six readings are asked about once all are typed; a wrong one is gone back to', async () => {
  vi.spyOn(benches, 'useBench').mockReturnValue(bench())
  const asked = serve((a) => answer(a))
  const identified = () => asked.filter((a) => a.path === '/api/transistors/identify')
  answer = ({ path }) => (path.endsWith('/packages') ? { body: [] } : { body: { what: 'bipolar' } })
  const d = atDesk(null, () => useIdentify())
  for (const t of ['.66', '.64', '', '', '']) d.take(t)
  expect(identified()).toHaveLength(0)
  answer = ({ path }) =>
    path.endsWith('/packages') ? { body: [] } : problem(422, 'no drop', { field: 'readings[2].typed' })
  d.take('lots')
  await until(() => d.problem.value !== null)
  expect([d.at.value, d.found.value]).toEqual([2, null])
  answer = () => ({ body: { what: 'bipolar' } })
  d.take('OL')
  await until(() => d.found.value !== null)
  const sent = identified().at(-1)?.body as { readings: { red: string; typed: string }[] }
  expect(sent.readings.map((r) => r.typed)).toEqual(['.66', '.64', 'OL', 'OL', 'OL', 'lots'])
  d.clear()
  expect(d.at.value).toBe(0)
})

test('a stop that is pressed while something else is on its way is told after it; the same thing twice is told once', async () => {
  vi.stubGlobal(
    'EventSource',
    class {
      close() {}
    },
  )
  const told: string[] = []
  let go = () => {}
  const all = serve(async ({ method, path, body }) => {
    if (method === 'GET')
      return {
        body: path.endsWith('desk')
          ? { queue: [{ id: 'r1' }] }
          : path.endsWith('candidates')
            ? []
            : { samples: [] },
      }
    told.push((body as { command: string }).command)
    if (told.length === 1) await new Promise<void>((done) => (go = done))
    return { body: { id: 'r1' } }
  })
  vi.spyOn(benches, 'useBench').mockReturnValue(bench())
  const { value: r, app } = inView(() => useReform())
  await until(() => r.chosen.value === 'r1')
  const speed = r.command('speed', { speed: 600 })
  await until(() => told.length === 1)
  const stops = [r.command('stop'), r.command('stop')]
  r.chosen.value = 'another'
  go()
  expect(await Promise.all([speed, ...stops])).toEqual([true, true, true])
  expect(told).toEqual(['speed', 'stop'])
  expect(all.filter((a) => a.method === 'POST').map((a) => a.path)).toEqual(
    Array(2).fill('/api/reform/runs/r1/command'),
  )
  app.unmount()
})
