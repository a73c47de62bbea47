import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Part, Ticket } from '@/api/client'
import FindSheet from '@/views/bench/FindSheet.vue'
import ShelfBar from '@/views/bench/ShelfBar.vue'
import ToolBar from '@/views/bench/ToolBar.vue'
import { isOpen } from '@/views/bench/tools'
import TicketDialog from '@/views/bench/TicketDialog.vue'
import ShoppingList from '@/views/drawers/ShoppingList.vue'
import SafetyList from '@/views/job/SafetyList.vue'
import CauseNote from '@/views/station/CauseNote.vue'
import CircuitFacts from '@/views/station/CircuitFacts.vue'
import DisagreementNote from '@/views/station/DisagreementNote.vue'
import { words } from '@/words/en'
import { bench, clean, field, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { problem, until } from './server'

beforeEach(clean)
const part = (more: object = {}) =>
  ({ id: 'p1', version: 5, name: 'C5', kind: 'capacitor', asks: [], facts: [], ...more }) as unknown as Part
const text = (e: Element | undefined) => e?.textContent?.replace(/\s+/g, ' ').trim()

describe('sheet, mark and meter disagree', () => {
  const asking = part({
    disagreement: {
      question: 'sheet 10 kΩ, mark 100 kΩ: which is it?',
      source: 'x',
      answers: ['misread', 'changed by an earlier hand'],
    },
  })
  it('is answered with one of the answers and a note', async () => {
    const d = drawn(DisagreementNote, { part: asking })
    press(named(d, words.disagreement.answer))
    await nextTick()
    await nextTick()
    type(field(d, words.disagreement.note), 'solder is not the factory’s')
    await nextTick()
    press(named(d, 'changed by an earlier hand'))
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/parts/p1/explanations',
      body: { answer: 'changed by an earlier hand', note: 'solder is not the factory’s', version: 5 },
    })
    await until(() => field(d, words.disagreement.note).value === '')
  })
  it('is not there where nothing disagrees', () => {
    expect(drawn(DisagreementNote, { part: part() }).all('.disagreement')).toHaveLength(0)
  })
})

describe('why it failed', () => {
  const cooked = (more: object = {}) =>
    part({
      cause: {
        question: 'what fed too much through R3?',
        answer: null,
        suspects: [{ name: 'C6', because: 'it hangs behind R3' }],
        ...more,
      },
    })
  it('leads to a suspect, or names it as the cause', async () => {
    bench({ openStage: (stage: string) => seen.went.push({ stage }) })
    const d = drawn(CauseNote, { part: cooked() })
    press(d.one('.line .link'))
    press(named(d, words.job.feed.open))
    expect(seen.went).toEqual([{ select: 'C6' }, { stage: 'feed' }])
    press(d.one('.answer'))
    await nextTick()
    press(named(d, `${words.cause.was} C6`))
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/parts/p1/causes',
      body: { culprit: 'C6', answer: '', version: 5 },
    })
  })
  it('says that nobody on the tray is suspected, and is gone once it was answered', () => {
    expect(drawn(CauseNote, { part: cooked({ suspects: [] }) }).one('.line').textContent).toContain(
      words.cause.nobody,
    )
    expect(
      drawn(CauseNote, { part: cooked({ answer: { text: 'shorted valve' } }) }).all('.cause'),
    ).toHaveLength(0)
  })
})

describe('what a verdict depends on', () => {
  const fact = (name: string, text = '') => ({ fact: name, label: name, meaning: `what ${name} is`, text })
  const facts = (more: object) => {
    bench({
      workshop: ref({ words: { facts: [fact('grid'), fact('rail'), fact('bias'), fact('turns_ratio')] } }),
    })
    return drawn(CircuitFacts, { part: part(more) })
  }
  it('what is asked stands open and is sent as it is typed', async () => {
    const d = facts({ asks: [fact('grid')] })
    await nextTick()
    expect(d.text('.ask')).toBe(words.judge.asks)
    expect(d.all('button')).toHaveLength(0)
    type(field(d, 'grid'), '470k')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]?.body).toEqual({ version: 5, facts: { grid: '470k' } })
  })
  it('what was said is folded away, and others can be said beside it', async () => {
    const d = facts({ facts: [fact('rail', '250 V')] })
    expect(text(d.one('.said'))).toBe('rail 250 V')
    expect(d.all('.field')).toHaveLength(0)
    press(named(d, words.judge.changeFacts))
    await nextTick()
    expect(d.all('.field label').map(text)).toEqual(['rail', 'grid', 'bias'])
  })
  it('what is wrong with one stands beside it, and what was typed stays', async () => {
    seen.answer = () => problem(422, 'no resistance', { field: 'facts.grid' })
    const d = facts({ asks: [fact('grid')] })
    await nextTick()
    type(field(d, 'grid'), 'lots')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => d.all('.wrong').length > 0)
    expect([d.text('.wrong'), field(d, 'grid').value]).toEqual(['no resistance', 'lots'])
  })
  it('a coil is asked for its turns, a resistor for nothing', async () => {
    const coil = facts({ kind: 'coil' })
    press(named(coil, words.judge.sayFacts))
    await nextTick()
    expect(coil.all('.field label').map(text)).toEqual(['turns_ratio'])
    expect(facts({ kind: 'resistor' }).all('form')).toHaveLength(0)
  })
})

describe('what is ticked before anything is measured', () => {
  const list = (all_ticked: boolean, first: object = {}) => ({
    all_ticked,
    lines: [
      {
        line: 'plug',
        text: 'plug out',
        source: 'x',
        each_session: true,
        who: null,
        ticked_at: null,
        measured: null,
        limit: '',
        may_be_absent: false,
        value: null,
        passes: all_ticked ? true : null,
        ...first,
      },
      {
        line: 'empty',
        text: 'filter empty',
        source: 'x',
        each_session: false,
        who: 'Ada',
        ticked_at: '2031-05-06T08:00:00Z',
        passes: true,
      },
    ],
  })
  it('is ticked by name; without one it says so and ticks nothing', async () => {
    bench({ ticket: ref({ id: 't1' }) })
    seen.answer = ({ method, body }) => {
      if (method === 'GET') return { body: list(false) }
      const { who } = body as { who: string }
      return who
        ? { body: list(true, { who, ticked_at: '2031-05-06T09:00:00Z' }) }
        : problem(422, 'say who ticks')
    }
    const d = drawn(SafetyList, {})
    await until(() => d.all('li').length === 2)
    expect(d.one('.safety').classList.contains('open')).toBe(true)
    press(named(d, words.job.safety.tick))
    await until(() => d.all('.wrong').length > 0)
    expect(d.text('.wrong')).toBe('say who ticks')
    type(field(d, words.job.safety.who), 'Bo')
    await nextTick()
    press(named(d, words.job.safety.tick))
    await until(() => d.all('.safety.open').length === 0)
    expect(seen.asked.at(-1)?.body).toMatchObject({ line: 'plug', who: 'Bo' })
    expect(d.all('button')).toHaveLength(0)
  })
  it('what is measured takes its number, keeps what does not pass, and may be absent', async () => {
    bench({ ticket: ref({ id: 't1' }) })
    const touch = { measured: 'current', limit: 'at most 500 µA', may_be_absent: true }
    seen.answer = ({ method, body }) => {
      if (method === 'GET') return { body: list(false, touch) }
      const value = (body as { value: string }).value
      if (value === 'lots') return problem(422, 'that is no current', { field: 'value' })
      const kept = { who: 'Bo', ticked_at: '2031-05-06T09:00:00Z', value: { text: '2 mA' }, passes: false }
      return { body: list(false, { ...touch, ...(value ? kept : { ...kept, value: null, passes: true }) }) }
    }
    const d = drawn(SafetyList, { before: 'closing' })
    await until(() => d.all('li').length === 2)
    expect(d.text('h3')).toContain(words.job.safety.title.closing)
    type(d.one('.value input') as HTMLInputElement, 'lots')
    await nextTick()
    press(named(d, words.job.safety.note))
    await until(() => d.all('.value .wrong').length > 0)
    expect(d.text('.value .wrong')).toBe('that is no current')
    expect((d.one('.value input') as HTMLInputElement).value).toBe('lots')
    type(d.one('.value input') as HTMLInputElement, '2mA')
    await nextTick()
    press(named(d, words.job.safety.note))
    await until(() => d.text('.value .wrong').includes('2 mA'))
    expect(seen.asked.at(-1)?.body).toMatchObject({ line: 'plug', before: 'closing', value: '2mA' })
    press(named(d, words.job.safety.absent))
    await until(() => d.all('.value').length === 0)
  })
  it('the database away says so, and it can be asked again', async () => {
    bench({ ticket: ref({ id: 't1' }) })
    seen.answer = () => problem(503, 'the database does not answer')
    const d = drawn(SafetyList, {})
    await until(() => d.all('.problem').length > 0)
    seen.answer = () => ({ body: list(true) })
    press(named(d, words.away.again))
    await until(() => d.all('li').length === 2)
  })
})

describe('the shelf', () => {
  const line = (id: string, name: string) => ({ id, name, class: 'isolated', left: '3 to measure' })
  const shelf = (more: object = {}) => {
    const all = [line('t1', 'Heron 7'), line('t2', 'Sounder 3')]
    bench({
      shelf: ref(all),
      onShelf: ref(all),
      tool: ref(null),
      openTicket: (id: string) => seen.went.push({ ticket: id }),
      ...more,
    })
    const [add, edit] = [vi.fn(), vi.fn()]
    return { d: drawn(ShelfBar, { onAdd: add, onEdit: edit }), add, edit }
  }
  it('another tag opens its ticket, the open one is changed', () => {
    const { d, edit } = shelf()
    press(named(d, 'Sounder 3'))
    expect(seen.went).toEqual([{ ticket: 't2' }])
    press(named(d, 'Heron 7'))
    expect(edit).toHaveBeenCalledOnce()
  })
  it('with a tool open the tag opens its ticket', () => {
    const { d, edit } = shelf({ tool: ref('drawers') })
    press(named(d, 'Heron 7'))
    expect(seen.went).toEqual([{ ticket: 't1' }])
    expect(edit).not.toHaveBeenCalled()
  })
  it('of many tickets the last ones lie at hand, in the order of the shelf; the others are in the pile', async () => {
    localStorage.setItem('owl-recent', JSON.stringify(['gone', 't9', 't4']))
    const many = Array.from({ length: 12 }, (_, i) => ({
      id: `t${i}`,
      name: `Set ${i}`,
      class: 'mains',
      left: '',
    }))
    const { d } = shelf({ onShelf: ref(many), ticketId: ref('t6') })
    await nextTick()
    const tags = d.all('.tag').map((t) => t.querySelector('b')?.textContent)
    expect(tags).toEqual(['Set 4', 'Set 6', 'Set 9', words.shelf.pile(9)])
  })
  it('day and night are kept, and an empty shelf says so', async () => {
    const { d } = shelf({ shelf: ref([]), onShelf: ref([]) })
    expect(d.text('.none')).toBe(words.shelf.empty)
    press(d.one('.sign'))
    await nextTick()
    expect(document.documentElement.classList.contains('day')).toBe(true)
    press(d.one('.sign'))
    await nextTick()
    expect(document.documentElement.classList.contains('day')).toBe(false)
  })
})

describe('the tools', () => {
  it('one that is open is shut by the same press; the colour card belongs to the reader', () => {
    const open = ref('drawers')
    bench({ tool: open, openTool: (tool: string | null) => seen.went.push({ tool }) })
    const d = drawn(ToolBar, {})
    expect(named(d, words.drawers.open)?.getAttribute('aria-pressed')).toBe('true')
    press(named(d, words.drawers.open))
    press(named(d, words.reader.open))
    expect(seen.went).toEqual([{ tool: null }, { tool: 'reader' }])
    expect([isOpen('reader', 'cards'), isOpen('drawers', 'cards')]).toEqual([true, false])
  })
})

describe('one field that finds anything', () => {
  const found = {
    tickets: [{ id: 't2', name: 'Pilot boat set', left: '2 to fit' }],
    parts: [{ ticket: 't3', set: 'Net loft set', name: 'R81', what: 'anode load' }],
    lots: [{ id: 'l1', description: '10 kΩ 1 W', count: 4, place: 'tin 2' }],
    rules: [{ number: 'R3', title: 'Heat' }],
  }
  const sheet = async (more: object = {}) => {
    const went = (what: object) => seen.went.push(what as never)
    bench({
      openTicket: (id: string) => went({ ticket: id }),
      go: (to: object) => went(to),
      openTool: (tool: string, which?: string) => went({ tool, which }),
      card: ref(null),
      ...more,
    })
    const closed = vi.fn()
    const d = drawn(FindSheet, { onClose: closed })
    await until(() => d.all('[role=option]').length > 0)
    return { d, closed }
  }
  it('leads to a ticket, a part, a drawer and a rule, and closes', async () => {
    seen.answer = () => ({ body: found })
    for (const [which, went] of [
      ['Pilot boat set', { ticket: 't2' }],
      ['R81', { ticket: 't3', part: 'R81', step: null }],
      ['10 kΩ 1 W', { tool: 'drawers', which: '' }],
      ['R3 Heat', { tool: 'workshop', which: 'R3' }],
    ] as const) {
      const { d, closed } = await sheet()
      press(d.all('[role=option]').find((o) => o.querySelector('b')?.textContent === which))
      await until(() => closed.mock.calls.length > 0)
      expect(seen.went).toEqual([went])
    }
  })
  it('Enter before the answer is there takes what was found, not what stood there', async () => {
    seen.answer = () => ({
      body: { tickets: [{ id: 't9', name: 'Signal hut set', left: '' }], parts: [], lots: [], rules: [] },
    })
    const { d, closed } = await sheet()
    seen.answer = () => ({ body: found })
    const line = d.one('input') as HTMLInputElement
    type(line, 'pilot')
    line.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
    await until(() => closed.mock.calls.length > 0)
    expect(seen.went).toEqual([{ ticket: 't2' }])
  })
  it('what the bench can do is found without a server, which is said', async () => {
    seen.answer = () => ({ body: found })
    const { d } = await sheet()
    seen.answer = () => problem(503, 'the database does not answer')
    type(d.one('input') as HTMLInputElement, 'reform')
    await until(() => d.all('[role=alert]').length > 0)
    expect(d.text('[role=alert]')).toBe(words.find.away)
    expect(
      d
        .all('[role=option]')
        .map((o) => o.textContent)
        .join(),
    ).toContain(words.reform.open)
  })
})

describe('a ticket', () => {
  const workshop = ref({
    schools: [{ school: 'test first', in_words: 'measure, then decide', has_tight: true }],
    words: { sources: ['mains transformer', 'battery'], devices: ['valves'] },
  })
  it('is opened under the name that was typed, and gone to', async () => {
    bench({ workshop, openTicket: (id: string) => seen.went.push({ ticket: id }) })
    seen.answer = ({ method }) => ({ body: method === 'GET' ? { copies: [] } : { id: 'new' } })
    const close = vi.fn()
    const d = drawn(TicketDialog, { change: null, onClose: close })
    await nextTick()
    type(field(d, words.ticket.name), 'Lark 4 of the harbour office')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => close.mock.calls.length > 0)
    const sent = seen.asked.find((a) => a.method === 'POST')
    expect(sent?.body).toMatchObject({
      name: 'Lark 4 of the harbour office',
      source: 'mains transformer',
      devices: 'valves',
      highest: '',
      school: 'test first',
      policy: null,
    })
    expect(seen.went).toEqual([{ ticket: 'new' }])
  })
  it('refused, it stays with what is wrong; changed meanwhile, it gives way to what stands', async () => {
    bench({ workshop })
    const change = {
      id: 't1',
      version: 2,
      name: 'Heron 7',
      class: { source: 'battery', devices: 'valves', highest: { text: '90 V' }, in_words: '' },
      school: 'test first',
      tight: false,
      policy: null,
      complaint: '',
    } as unknown as Ticket
    const close = vi.fn()
    seen.answer = ({ method }) =>
      method === 'GET' ? { body: { copies: [] } } : problem(422, 'give it a name', { field: 'name' })
    const d = drawn(TicketDialog, { change, onClose: close })
    press(d.one('form'), 'submit')
    await until(() => d.all('.wrong').length > 0)
    expect(d.text('.wrong')).toBe('give it a name')
    seen.answer = () => problem(409, 'changed meanwhile')
    press(d.one('form'), 'submit')
    await until(() => close.mock.calls.length > 0)
    expect(seen.asked.at(-1)).toMatchObject({
      method: 'PATCH',
      body: { version: 2, source: 'battery', highest: '90 V' },
    })
  })
})

it('what is to be bought: how many, for which sets, at what price; what has none is named', async () => {
  seen.answer = ({ path }) =>
    path.endsWith('shopping')
      ? {
          body: {
            lines: [
              {
                description: '10 kΩ 1 W',
                order: 10,
                lacking: 3,
                price: null,
                wanted_for: ['Heron 7 R4', 'Lark 4 R9'],
              },
            ],
            cost: '1.20',
            without: ['10 kΩ 1 W'],
          },
        }
      : { body: { cost: null, needs: [] } }
  const d = drawn(ShoppingList, {})
  await until(() => d.all('tbody tr').length === 1)
  expect(d.all('td').map(text)).toEqual(['10', '10 kΩ 1 W', '3', '–', 'Heron 7 R4, Lark 4 R9'])
  expect(text(d.one('.watch'))).toBe(`${words.drawers.without} 10 kΩ 1 W`)
})
