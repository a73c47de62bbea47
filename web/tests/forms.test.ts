import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Instrument, Lot, Policies, Problem } from '@/api/client'
import ChoiceChips from '@/components/ChoiceChips.vue'
import Field from '@/components/Field.vue'
import MeasuredValue from '@/components/MeasuredValue.vue'
import PaperSheet from '@/components/PaperSheet.vue'
import LotForm from '@/views/drawers/LotForm.vue'
import LotTable from '@/views/drawers/LotTable.vue'
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
