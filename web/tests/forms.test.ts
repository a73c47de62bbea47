import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Changes, Closing, FeedSuspect, Instrument, Lot, Policies, Problem, Run } from '@/api/client'
import ChoiceChips from '@/components/ChoiceChips.vue'
import Field from '@/components/Field.vue'
import MeasuredValue from '@/components/MeasuredValue.vue'
import PaperSheet from '@/components/PaperSheet.vue'
import LotForm from '@/views/drawers/LotForm.vue'
import LotTable from '@/views/drawers/LotTable.vue'
import AddChange from '@/views/job/AddChange.vue'
import PowerPage from '@/views/job/PowerPage.vue'
import SoakTest from '@/views/job/SoakTest.vue'
import SuspectList from '@/views/job/SuspectList.vue'
import RunActions from '@/views/reform/RunActions.vue'
import RunNumbers from '@/views/reform/RunNumbers.vue'
import SixReadings from '@/views/transistor/SixReadings.vue'
import InstrumentForm from '@/views/workshop/InstrumentForm.vue'
import PolicyForm from '@/views/workshop/PolicyForm.vue'
import WordsPage from '@/views/workshop/WordsPage.vue'
import { words } from '@/words/en'
import { bench, clean, field, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { problem, until } from './server'

beforeEach(clean)
const text = (e: Element | undefined) => e?.textContent?.replace(/\s+/g, ' ').trim()

describe('what forms are made of', () => {
  it('chips are one of several; the label is heard even where it is not seen', () => {
    const take = vi.fn()
    const options = [
      { value: 'a', label: 'first' },
      { value: 'b', label: 'second' },
    ]
    const d = drawn(ChoiceChips, { label: 'which', options, modelValue: 'a', 'onUpdate:modelValue': take })
    expect(d.one('legend').className).toBe('sr')
    expect(d.all('label').map((l) => l.classList.contains('on'))).toEqual([true, false])
    const names = new Set(d.all('input').map((i) => (i as HTMLInputElement).name))
    expect(names.size).toBe(1)
    const second = d.all('input')[1] as HTMLInputElement
    second.checked = true
    press(second, 'change')
    expect(take).toHaveBeenCalledWith('b')
  })
  it('what is wrong stands below its field, is read out with it, and takes the place of the hint', () => {
    const slot = {
      default: ({ id, described }: { id: string; described?: string }) => [id, described].join(),
    }
    const right = drawn(Field, { label: 'volts', hint: 'as typed' }, slot)
    expect(right.text('.hint')).toBe('as typed')
    const wrong = drawn(Field, { label: 'volts', hint: 'as typed', wrong: 'no number' }, slot)
    expect(wrong.all('.hint')).toHaveLength(0)
    const id = wrong.one('label').getAttribute('for')
    expect(wrong.one('[role=alert]').id).toBe(`${id}-wrong`)
    expect(wrong.place.textContent).toContain(`${id},${id}-wrong`)
  })
  it.each([
    [{ number: '12.5', unit: 'kΩ' }, '12', '.5 kΩ'],
    [{ number: '47', unit: 'Ω' }, '47', ' Ω'],
  ])('decimal points stand under each other: %j', (amount, whole, rest) => {
    const d = drawn(MeasuredValue, { amount })
    expect([d.text('.whole'), d.one('.rest').textContent?.replace(/\u00a0/g, ' ')]).toEqual([whole, rest])
    expect(drawn(MeasuredValue, { instead: 'over' }).text('.instead')).toBe('over')
  })
  it('a sheet on which something was typed is not closed by a click beside it', () => {
    const close = vi.fn()
    const clean = drawn(PaperSheet, { title: 'x', onClose: close })
    press(clean.one('dialog'))
    expect(close).toHaveBeenCalledTimes(1)
    const written = drawn(PaperSheet, { title: 'x', written: true, onClose: close })
    press(written.one('dialog'))
    expect(close).toHaveBeenCalledTimes(1)
    press(written.one('.shut'))
    expect(close).toHaveBeenCalledTimes(2)
  })
})

describe('the drawers', () => {
  const lot = (more: object = {}): Lot =>
    ({
      id: 'l1',
      version: 1,
      count: 3,
      low: false,
      condition: 'new',
      needs_test: false,
      place: 'cabinet A',
      price: '0.10',
      value_text: '10 kΩ',
      rest_text: '±1 %',
      description: '10 kΩ ±1 %',
      fields: { kind: 'resistor', value: '10k', condition: 'new', count: '3' },
      ...more,
    }) as unknown as Lot
  it('one more and one less by a touch; none left cannot be taken', () => {
    const count = vi.fn()
    const d = drawn(LotTable, {
      lots: [lot(), lot({ id: 'l2', count: 0, low: true, condition: 'pulled', needs_test: true })],
      onCount: count,
    })
    const [less, more] = [...(d.all('tr')[0]?.querySelectorAll('.count button') ?? [])]
    press(more)
    press(less)
    expect(count.mock.calls.map((c) => c[1] as number)).toEqual([1, -1])
    const empty = d.all('tr')[1]
    expect((empty?.querySelector('.count button') as HTMLButtonElement).disabled).toBe(true)
    expect(empty?.className).toBe('low none')
    expect(empty?.querySelector('.watch')?.textContent).toBe('pulled')
  })
  const columns = ['kind', 'value', 'watts', 'winding', 'place', 'count'].map((name) => ({ name, words: [] }))
  const form = (save: (fields: object) => Promise<Problem | null>, close = vi.fn()) => ({
    close,
    d: drawn(LotForm, { lot: lot(), columns, save, onClose: close }),
  })
  it('shows what says something of such a part, and sends all that is known of it', async () => {
    const save = vi.fn(() => Promise.resolve(null))
    const { d, close } = form(save)
    expect(d.all('label').map(text)).not.toContain(words.drawers.columns.winding)
    await nextTick()
    type(field(d, words.drawers.columns.value ?? 'value'), '12k')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => close.mock.calls.length > 0)
    expect(save).toHaveBeenCalledWith({ kind: 'resistor', value: '12k', condition: 'new', count: '3' })
  })
  it('refused, it stays open with what is wrong beside the field', async () => {
    const { d, close } = form(() => Promise.resolve({ field: 'value', detail: 'no value' } as Problem))
    press(d.one('form'), 'submit')
    await until(() => d.all('[role=alert]').length > 0)
    expect(d.text('.field .wrong')).toBe('no value')
    expect(close).not.toHaveBeenCalled()
  })
})

describe('the job', () => {
  const w = words.job
  it('a change over an open one is asked for its reason, and both are sent', async () => {
    const added = vi.fn()
    seen.answer = ({ body }) =>
      (body as { over_open: string }).over_open
        ? { body: { changes: [] } }
        : problem(422, 'C5 is open: why?', { field: 'over_open' })
    const d = drawn(AddChange, { kinds: ['joint', 'wire'] as Changes['kinds'], ticket: 't1', onAdded: added })
    await nextTick()
    type(field(d, w.changes.what), 'earth lug resoldered')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => d.all('[role=alert]').length > 0)
    type(field(d, w.changes.overField), 'waiting for the part')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => added.mock.calls.length > 0)
    expect(seen.asked.at(-1)?.body).toMatchObject({
      kind: 'joint',
      what: 'earth lug resoldered',
      over_open: 'waiting for the part',
    })
    expect(field(d, w.changes.what).value).toBe('')
  })
  const closing = (more: object = {}): Closing =>
    ({ soaks: [], left: [], words: '', closed_at: null, ...more }) as unknown as Closing
  it('a soak test is begun, looked at when it is due, and what is seen is sent', async () => {
    const taken = vi.fn()
    const begin = drawn(SoakTest, { closing: closing(), ticket: 't1', onTaken: taken })
    await nextTick()
    type(field(begin, w.close.planned), '3 h')
    await nextTick()
    press(begin.one('form'), 'submit')
    await until(() => taken.mock.calls.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/tickets/t1/soaks',
      body: { planned: '3 h', every: '15 min' },
    })
    const begun_at = new Date(Date.now() - 2_000_000).toISOString()
    const soak = {
      id: 's1',
      begun_at,
      ran: '33 min',
      planned_s: 7200,
      due_s: 900,
      checks: [{ after: '15 min', well: true, seen: 'cool' }],
    }
    const d = drawn(SoakTest, { closing: closing({ soaks: [soak] }), ticket: 't1', onTaken: taken })
    expect(d.text('.due')).toBe(w.close.dueNow)
    await nextTick()
    type(field(d, w.close.seen), 'hums when warm')
    await nextTick()
    press(named(d, w.close.notWell))
    await until(() => taken.mock.calls.length > 1)
    expect(seen.asked.at(-1)).toMatchObject({
      path: '/api/soaks/s1/checks',
      body: { well: false, seen: 'hums when warm' },
    })
    expect(
      drawn(SoakTest, { closing: closing({ closed_at: begun_at, soaks: [soak] }), ticket: 't1' }).all('form'),
    ).toHaveLength(0)
  })
  it('first power: a lamp in series must have told its story before the step is taken', async () => {
    const volts = { number: '60', unit: 'V', text: '60 V', value: 60 }
    const log = {
      bulb: null,
      missing: null,
      ups: [],
      stories: ['dark', 'dim'],
      signs: [{ sense: 'heard', sign: 'hum' }],
      plan: [{ share: 0.3, volts, hold: { text: '60 s' }, watch: 'smell' }],
    }
    bench({
      ticket: ref({
        id: 't1',
        cautions: [
          { step: 'prove', text: 'hands out' },
          { step: 'fit', text: 'not here' },
        ],
      }),
    })
    seen.answer = () => ({ body: log })
    const d = drawn(PowerPage, {})
    await until(() => d.all('form').length > 0)
    expect(d.text('.cautions')).toBe('hands out')
    await until(() => field(d, w.power.volts).value === '60 V')
    type(field(d, w.power.bulb), '60 W')
    await nextTick()
    press(d.one('form'), 'submit')
    await nextTick()
    expect(d.text('.problem')).toBe(w.power.sayStory)
    const dim = d.all('input[type=radio]')[1] as HTMLInputElement
    dim.checked = true
    press(dim, 'change')
    press(named(d, 'hum'))
    await nextTick()
    expect(d.all('.problem')).toHaveLength(0)
    press(d.one('form'), 'submit')
    await until(() => seen.asked.some((a) => a.method === 'POST'))
    expect(seen.asked.find((a) => a.method === 'POST')?.body).toMatchObject({
      volts: '60 V',
      bulb: '60 W',
      story: 'dim',
      signs: ['hum'],
    })
  })
  it('of the suspects one is accused; those that explain it alike are counted, those on the tray led to', () => {
    const suspect = (ref: string, fit: number): FeedSuspect =>
      ({
        ref,
        fault: 'leak',
        fit,
        text: `${ref} leaking`,
        because: 'x',
        overloaded: [{ ref: 'R3', text: 'R3 cooks' }],
      }) as unknown as FeedSuspect
    const [accuse, select] = [vi.fn(), vi.fn()]
    const d = drawn(SuspectList, {
      suspects: [suspect('C6', 0.9), suspect('V1', 0.9), suspect('R3', 0.1)],
      onTray: ['C6'],
      modelValue: 0,
      'onUpdate:modelValue': accuse,
      onSelect: select,
    })
    expect(text(d.one('h3 .watch'))).toBe(`2 ${w.feed.equal}`)
    expect(d.all('li').map((l) => l.classList.contains('on'))).toEqual([true, false, false])
    press(d.all('li')[2]?.querySelector('button') ?? undefined)
    expect(accuse).toHaveBeenLastCalledWith(2)
    press(named(d, w.feed.select))
    expect(select).toHaveBeenCalledWith('C6')
    press(named(d, w.feed.healthy))
    expect(accuse).toHaveBeenLastCalledWith(null)
  })
})

describe('a reforming run', () => {
  const run = (more: object = {}): Run =>
    ({
      id: 'r1',
      ticket_id: 't1',
      part_id: 'p1',
      part: 'C18 + 1',
      way: 'guided',
      phase: 'ready',
      state: '2 h',
      volts: null,
      amperes: null,
      stage_s: null,
      empty_in_s: null,
      forecast: null,
      held: false,
      leakage: null,
      speed: 60,
      touch: { safe: true },
      ...more,
    }) as unknown as Run
  const reform = () => ({
    command: vi.fn(),
    remove: vi.fn(),
    prepare: vi.fn(),
    takeLeakage: vi.fn(() => Promise.resolve(true)),
  })
  it('offers what the phase allows and nothing else', () => {
    const labels = (more: object) =>
      drawn(RunActions, { reform: reform(), run: run(more) })
        .all('button')
        .map(text)
    const has = (more: object, word: string) => labels(more).some((l) => l?.startsWith(word))
    const r = words.reform
    expect([has({}, r.on), has({}, r.stop), has({}, r.remove)]).toEqual([true, false, true])
    expect([
      has({ phase: 'feeding' }, r.on),
      has({ phase: 'feeding' }, r.stop),
      has({ phase: 'feeding', held: true }, r.resume),
    ]).toEqual([false, true, true])
    expect([
      has({ phase: 'emptying' }, r.discharge),
      has({ phase: 'emptying', empty_in_s: 9 }, r.discharge),
    ]).toEqual([true, false])
    expect([
      has({ phase: 'over' }, r.toPart),
      has({ phase: 'over' }, r.take),
      has({ phase: 'over', leakage: '80 µA' }, r.take),
    ]).toEqual([true, false, true])
  })
  it('cannot be switched on while it is not safe, and goes back to its part', () => {
    const d = drawn(RunActions, { reform: reform(), run: run({ touch: { safe: false } }) })
    expect((d.one('.main') as HTMLButtonElement).disabled).toBe(true)
    press(drawn(RunActions, { reform: reform(), run: run({ phase: 'over' }) }).one('.main'))
    expect(seen.went.at(-1)).toEqual({ ticket: 't1', part: 'C18', step: 'measure' })
  })
  it('says from afar what is on the capacitor, and what there is still to wait for', () => {
    const n = (more: object) =>
      drawn(RunNumbers, { run: run(more) })
        .all('p')
        .map(text)
    expect(n({})).toEqual(
      [`${words.reform.across} –V`, `${words.reform.flowing} –mA`, `${words.reform.expected} 2 h`]
        .map((s) => s.replace(' –', '–'))
        .map((s) => expect.stringContaining(s.slice(0, 8)) as string),
    )
    expect(n({ phase: 'feeding', volts: { number: '214.9' }, stage_s: 65 }).join()).toMatch(/214.9V.*01:05/)
    expect(n({ phase: 'emptying', empty_in_s: 12 }).join()).toContain(words.reform.emptyIn)
  })
})

describe('six readings', () => {
  it('Enter takes what is typed; arrows go over the ways round, sideways only where they would not move the cursor', async () => {
    const [take, go] = [vi.fn(), vi.fn()]
    const d = drawn(SixReadings, {
      typed: ['0.62', null, null, null, null, ''],
      problem: { field: 'readings[1]', detail: 'no voltage' },
      modelValue: 0,
      onTake: take,
      'onUpdate:modelValue': go,
    })
    const entry = d.one('input') as HTMLInputElement
    expect(entry.value).toBe('0.62')
    expect(d.text('[role=alert]')).toBe('no voltage')
    expect(d.all('li b').map((b) => b.textContent)).toEqual([
      '0.62',
      '–',
      '–',
      '–',
      '–',
      words.transistor.identify.nothing,
    ])
    const key = (key: string) =>
      entry.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
    key('ArrowUp')
    expect(go).toHaveBeenLastCalledWith(5)
    entry.setSelectionRange(2, 2)
    key('ArrowRight')
    expect(go).toHaveBeenCalledTimes(1)
    press(d.all('li button')[3])
    expect(go).toHaveBeenLastCalledWith(3)
    await nextTick()
  })
})

describe('the workshop', () => {
  const instrument = {
    id: 'i1',
    version: 2,
    name: 'Bridge',
    kind: 'multimeter',
    checked_on: '2031-01-02',
    retired: false,
    address: '',
    ways: [
      {
        name: 'ohms',
        quantity: 'resistance',
        mode: 'dc',
        setting: null,
        ranges: [{ up_to: '400', percent: '0.5', counts: 3, resolution: '0.1' }],
      },
    ],
  }
  it('an instrument is changed with its ranges; a new range begins with what the last one had', async () => {
    const close = vi.fn()
    const d = drawn(InstrumentForm, { change: instrument as unknown as Instrument, onClose: close })
    press(named(d, words.workshop.addRange))
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => close.mock.calls.length > 0)
    const sent = seen.asked[0]
    expect([sent?.method, sent?.path]).toEqual(['PATCH', '/api/instruments/i1'])
    expect(sent?.body).toMatchObject({
      version: 2,
      ways: [{ ranges: [{ up_to: '400' }, { up_to: '', percent: '0.5', counts: 3 }] }],
    })
  })
  it('what was typed is not thrown away by one press', async () => {
    const close = vi.fn()
    const d = drawn(InstrumentForm, { change: instrument as unknown as Instrument, onClose: close })
    press(named(d, words.workshop.remove))
    await nextTick()
    press(named(d, words.workshop.cancel))
    await nextTick()
    expect(close).not.toHaveBeenCalled()
    press(named(d, words.workshop.throwAway))
    expect(close).toHaveBeenCalledOnce()
  })
  it('what is wrong with a range stands at that range', async () => {
    seen.answer = () => problem(422, 'a resolution above zero', { field: 'ways[0].ranges[0].resolution' })
    const d = drawn(InstrumentForm, { change: instrument as unknown as Instrument })
    press(d.one('form'), 'submit')
    await until(() => d.all('.range .wrong').length > 0)
    expect(d.text('.range .wrong')).toBe('a resolution above zero')
  })
  const policy = {
    id: null,
    name: 'test first',
    school: 'test first',
    tight: false,
    version: 0,
    limit: 'marked',
    leakage: 'older military',
    condemns: [],
    values: [{ number: 'watch_from', text: '70 %' }],
  }
  it('a copy of a school is made with a name and numbers of its own', async () => {
    const kept = vi.fn()
    const all = {
      schools: [policy],
      copies: [],
      limits: ['marked'],
      leakages: ['older military'],
      families: [],
      numbers: [{ number: 'watch_from', label: 'watched from', least: '10 %', most: '100 %' }],
    }
    seen.answer = () => ({ body: all })
    const d = drawn(PolicyForm, { all: all as unknown as Policies, policy, onKept: kept })
    await nextTick()
    type(field(d, words.workshop.name), 'Loft rules')
    type(field(d, 'watched from'), '50 %')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => kept.mock.calls.length > 0)
    expect(seen.asked[0]).toMatchObject({
      method: 'POST',
      path: '/api/policies',
      body: { name: 'Loft rules', school: 'test first', numbers: { watch_from: '50 %' } },
    })
  })
  it('words are chosen one by one or as a trade has them', async () => {
    const chosen = { valve: 'valve', supply: 'HT', anode: 'anode', earth: 'earth', heater: 'heater' }
    const other = { valve: 'tube', supply: 'B+', anode: 'plate', earth: 'ground', heater: 'filament' }
    const pairs = [{ choice: 'valve', words: ['valve', 'tube'] }]
    const b = bench({
      workshop: ref({
        dialect: {
          chosen,
          pairs,
          terms: [],
          usual: [
            { name: 'British', words: chosen },
            { name: 'American', words: other },
          ],
        },
      }),
    })
    const d = drawn(WordsPage, {})
    expect(named(d, words.dialect.as('British'))?.getAttribute('aria-pressed')).toBe('true')
    const tube = d.all('input[type=radio]')[1] as HTMLInputElement
    tube.checked = true
    press(tube, 'change')
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]?.body).toEqual({ ...chosen, valve: 'tube' })
    press(named(d, words.dialect.as('American')))
    await until(() => seen.asked.length > 1)
    expect(seen.asked[1]?.body).toEqual(other)
    await until(() => vi.mocked(b.refreshWorkshop).mock.calls.length === 2)
  })
})
