import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Choice, Judgement, Part, Strip, Ticket } from '@/api/client'
import OwlLine from '@/views/bench/OwlLine.vue'
import PartStrip from '@/views/bench/PartStrip.vue'
import TrayList from '@/views/bench/TrayList.vue'
import ConflictDialog from '@/views/bench/ConflictDialog.vue'
import ChoiceCard from '@/views/station/ChoiceCard.vue'
import JudgeStep from '@/views/station/JudgeStep.vue'
import ProveStep from '@/views/station/ProveStep.vue'
import ReadingTable from '@/views/station/ReadingTable.vue'
import ReasonList from '@/views/station/ReasonList.vue'
import { words } from '@/words/en'
import { bench, clean, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { problem, until } from './server'

const amount = (value: number, unit = 'kΩ') => ({
  value,
  unit,
  number: String(value),
  text: `${value} ${unit}`,
})
beforeEach(clean)

const strip = (name: string, more: object = {}): Strip =>
  ({
    id: `id-${name}`,
    name,
    kind: 'resistor',
    family: null,
    position: null,
    place: '',
    note: '',
    group: [],
    looks: [],
    isolate: 'lift one end',
    suspect_of: null,
    sheet: amount(47),
    marked: amount(47),
    winding: null,
    reads: amount(51),
    beyond: false,
    scheme: 'bands',
    code: null,
    can: false,
    print: [],
    bands: ['yellow', 'violet', 'orange'],
    says: 'keep',
    verdict: 'keep',
    to_measure: false,
    cause_question: null,
    value_question: null,
    urgency: 1,
    status: 'judged',
    step: 'judge',
    steps: ['read', 'measure', 'judge', 'fit', 'prove'],
    done: [],
    version: 3,
    order: name,
    ...more,
  }) as unknown as Strip

describe('a part on the tray', () => {
  const of = (more: object, free = false) =>
    drawn(PartStrip, { part: strip('R4', more), selected: false, free })
  it.each([
    [{}, words.verdict.keep, 'keep'],
    [{ says: 'measure again' }, words.verdict['measure again'], 'again'],
    [{ says: null, status: 'unmeasured' }, words.status.unmeasured, 'open'],
    [{ says: 'keep', status: 'proven' }, words.status.proven, 'keep'],
    [{ says: 'replace', status: 'failed' }, words.status.failed, 'replace'],
    [{ says: null, status: 'unmeasured', steps: ['read'] }, words.status.read, 'open'],
  ])('%j says %s', (more, text, tone) => {
    const p = of(more)
    expect(p.one('.verdict').textContent).toContain(text)
    expect(p.one('.verdict').classList.contains(tone)).toBe(true)
  })
  it('says its place, its pair and what was seen, or how to free it', () => {
    const more = {
      position: 'cathode',
      place: 'V3 pin 8',
      group: [{ id: 'x', name: 'R5' }],
      looks: ['burnt'],
      note: 'cracked',
    }
    expect(of(more).text('.where span')).toBe('burnt · V3 pin 8 · pair with R5 · cracked')
    expect(of(more, true).text('.where span')).toBe('lift one end')
    expect(of({ group: [{ name: 'R5' }, { name: 'R6' }] }).text('.where span')).toBe('group with R5, R6')
  })
  it('shows the copper of a winding, but the henries where henries were read', () => {
    const coil = { kind: 'coil', winding: amount(210, 'Ω'), sheet: amount(8, 'H') }
    expect(of({ ...coil, reads: amount(205, 'Ω') }).all('.value')[0]?.textContent).toContain('210')
    expect(of({ ...coil, reads: amount(7.6, 'H') }).all('.value')[0]?.textContent).toContain('8')
    expect(of({ reads: null, beyond: true }).text('.instead')).toBe(words.tray.overrange)
  })
})

describe('the tray', () => {
  const ticket = {
    complaint: 'silent',
    parts: [
      strip('R4', { urgency: 1, position: 'grid leak' }),
      strip('R5', { urgency: 9, position: 'cathode', cause_question: 'what fed too much through it?' }),
      strip('C1', { urgency: 3, kind: 'capacitor', to_measure: true, group: [{ id: 'id-C2', name: 'C2' }] }),
      strip('C2', { urgency: 3, kind: 'capacitor', group: [{ id: 'id-C1', name: 'C1' }] }),
    ],
  } as unknown as Ticket
  const tray = (more: object = {}) => {
    bench({ ticket: ref(ticket), strip: ref(ticket.parts[0]), ...more })
    return drawn(TrayList, {})
  }
  const names = (d: ReturnType<typeof drawn>) =>
    d.all('.strip .ref').map((r) => (r.textContent ?? '').trim().slice(0, 2))
  it('lies by name, by urgency, by place; halves of a pair beside each other', async () => {
    const d = tray()
    expect(names(d)).toEqual(['R4', 'R5', 'C1', 'C2'])
    for (const [by, order] of [
      ['worst', ['R5', 'C1', 'C2', 'R4']],
      ['position', ['R5', 'R4', 'C1', 'C2']],
    ] as const) {
      press(named(d, words.tray.orders[by]))
      await nextTick()
      expect(names(d)).toEqual(order)
    }
  })
  it('shows what is to be measured, and finds by any word', async () => {
    const d = tray()
    press(d.one('.only'))
    await nextTick()
    expect(names(d)).toEqual(['C1'])
    press(d.one('.only'))
    type(d.one('.find'), 'cathode r5')
    await nextTick()
    expect(names(d)).toEqual(['R5'])
    type(d.one('.find'), 'nothing like it')
    await nextTick()
    expect(d.text('.empty')).toBe(words.tray.noneMatch)
  })
  it('leads to the parts that ask a question', () => {
    const d = tray()
    press(d.one('.questions button'))
    expect(seen.went).toEqual([{ select: 'R5' }])
  })
  it.each([
    [{ loading: ref(true), ticket: ref(null) }, words.tray.loading],
    [{ ticket: ref(null) }, words.tray.none],
    [{ ticket: ref(null), missing: ref('it is gone') }, 'it is gone'],
    [{ ticket: ref({ ...ticket, parts: [] }) }, words.tray.empty],
  ])('says what there is when there is nothing', (more, text) => {
    expect(tray(more).one('.empty').textContent).toContain(text)
  })
})

const judgement = (more: object = {}): Judgement =>
  ({
    verdict: 'replace',
    certain: true,
    deviation_text: '+31 %',
    next: [],
    dials: [],
    gauge: null,
    schools: [],
    schools_differ: null,
    asks: [],
    would_change: [],
    from_memory: false,
    reasons: [
      {
        rule: 'R1',
        text: '62 kΩ is above 51.7 kΩ',
        source: 'IEC 60062:2016, table 2',
        source_short: 'IEC 60062',
      },
    ],
    rests_on: '',
    ...more,
  }) as unknown as Judgement
const part = (more: object = {}): Part =>
  ({
    ...strip('R4'),
    in_words: '47 kΩ ±10 %',
    matters: null,
    judgement: judgement(),
    decision: null,
    deciding: null,
    judged_against: 'marked',
    readable: [{ called: 'resistance', quantities: ['resistance'] }],
    family_known: null,
    fittings: [],
    readings: [],
    asks: [],
    facts: [],
    checks: [],
    ...more,
  }) as unknown as Part

describe('judging', () => {
  const step = (more: object = {}) => drawn(JudgeStep, { part: part(more) })
  it('one press decides as it is offered, and leads on', async () => {
    const d = step()
    expect(d.one('[data-test=verdict]').textContent).toContain(words.verdict.replace)
    press(named(d, words.judge.accept.trim()))
    await until(() => seen.went.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/parts/id-R4/decisions',
      body: { decided: 'replace', why: '', version: 3 },
    })
    expect(seen.went).toEqual([{ step: 'fit' }])
  })
  it('decides otherwise with a reason; refused, the reason stays and what is wrong stands beside it', async () => {
    seen.answer = () => problem(422, 'say why', { field: 'why' })
    const d = step()
    press(named(d, words.judge.otherwise))
    await nextTick()
    type(d.one('.other input[type=text], .other .el-input__inner'), 'owner wants it kept')
    await nextTick()
    press(named(d, words.judge.accept.trim()))
    await until(() => d.all('.wrong').length > 0)
    expect(seen.asked[0]?.body).toMatchObject({ decided: 'keep', why: 'owner wants it kept' })
    expect(d.text('.wrong')).toBe('say why')
    expect(seen.went).toEqual([])
  })
  it.each([
    [{ judgement: judgement({ verdict: 'measure again' }) }, words.judge.measure, { step: 'measure' }],
    [
      { decision: { stands: true, decided: 'keep', offered: 'keep', decided_at: '2031-05-06T08:00:00Z' } },
      words.judge.next,
      { move: 1 },
    ],
    [
      {
        decision: {
          stands: true,
          decided: 'replace',
          offered: 'keep',
          why: 'split',
          decided_at: '2031-05-06T08:00:00Z',
        },
      },
      words.judge.fit,
      { step: 'fit' },
    ],
  ])('the lit button leads where the part stands: %#', (more, says, to) => {
    const d = step(more)
    press(named(d, says))
    expect(seen.went).toEqual([to])
    expect(seen.asked).toHaveLength(0)
  })
  it('says that there is nothing to judge yet', () => {
    expect(step({ judgement: null }).text('.nothing')).toBe(words.judge.nothing)
  })
})

describe('why', () => {
  it('a source is a press away, and what is from memory says so', async () => {
    const d = drawn(ReasonList, {
      judgement: judgement({ from_memory: true, would_change: [{ text: 'keep below 51.7 kΩ' }] }),
    })
    expect(d.all('.source')).toHaveLength(0)
    press(d.one('.s'))
    await nextTick()
    expect(d.text('.source')).toBe('IEC 60062:2016, table 2')
    expect(d.text('.memory')).toBe(words.rules.memory)
    expect(d.one('.flips').textContent).toContain('keep below 51.7 kΩ')
  })
})

describe('what can go in', () => {
  const choice = (more: object): Choice =>
    ({
      kind: 'resistor',
      description: '2 × 100 kΩ',
      from: 'drawers',
      deviation_text: '+2 %',
      pieces: [],
      price: null,
      needs_test: false,
      network: null,
      margins: [],
      effects: [{ text: 'runs cooler', better: true }],
      cautions: ['discharge it first'],
      passes: [{ rule: 'R7', text: 'volts', source: 'practice' }],
      ...more,
    }) as unknown as Choice
  const piece = (lot: string | null, more: object = {}) => ({
    lot,
    place: 'cabinet A',
    count: 7,
    value_text: '100 kΩ',
    ...more,
  })
  it('names each drawer once with how many of it are taken', () => {
    const d = drawn(ChoiceCard, {
      choice: choice({
        pieces: [piece('a'), piece('a'), piece('b', { place: 'tin', count: 1 }), piece(null)],
      }),
      picked: false,
    })
    expect(d.all('.from > span').map((s) => s.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
      `cabinet A ${words.fit.there(2, 7)}`,
      `tin ${words.fit.there(1, 1)}`,
    ])
    expect(d.all('.effect')).toHaveLength(0)
  })
  it('picked, it says what changes and what passes; what is to be bought says so', () => {
    const pick = vi.fn()
    const d = drawn(ChoiceCard, {
      choice: choice({ from: 'catalogue', needs_test: true }),
      picked: true,
      onPick: pick,
    })
    expect(d.one('.from').textContent).toContain(words.fit.toBuy)
    expect(d.text('.test')).toBe(words.fit.untested)
    expect(d.all('.effect').map((e) => e.textContent)).toHaveLength(2)
    press(d.one('input'), 'change')
    expect(pick).toHaveBeenCalledOnce()
  })
})

describe('proving', () => {
  const fitted = {
    fittings: [
      {
        id: 'f1',
        description: '47 kΩ film',
        fitted_at: '2031-05-06T08:00:00Z',
        proof: null,
        withdrawn_at: null,
        taken: [],
      },
    ],
  }
  it('what is seen is sent with whether it works', async () => {
    const d = drawn(ProveStep, { part: part(fitted) })
    type(d.one('textarea'), 'plays, no hum')
    await nextTick()
    press(named(d, words.prove.works))
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/fittings/f1/proof',
      body: { worked: true, seen: 'plays, no hum', checks: [] },
    })
    await until(() => (d.one('textarea') as HTMLTextAreaElement).value === '')
  })
  it('refused, what was typed stays', async () => {
    seen.answer = () => problem(422, 'say what you saw', { field: 'seen' })
    const d = drawn(ProveStep, { part: part(fitted) })
    type(d.one('textarea'), '.')
    await nextTick()
    press(named(d, words.prove.fails))
    await until(() => d.all('.wrong').length > 0)
    expect((d.one('textarea') as HTMLTextAreaElement).value).toBe('.')
  })
})

it('readings lie with the newest on top; a voided one says why and cannot be voided again', () => {
  const reading = (id: string, more: object = {}) => ({
    id,
    quantity: 'resistance',
    called: 'resistance',
    measured: amount(51),
    overrange: false,
    state: 'lifted',
    hot: false,
    mode: 'dc',
    instrument: 'Bench meter',
    way: '',
    accuracy: '±1 %',
    taken_at: '2031-05-06T08:00:00Z',
    voided: null,
    before_fitting: false,
    warnings: [],
    test_voltage: null,
    test_frequency: null,
    ...more,
  })
  const d = drawn(ReadingTable, {
    part: part({
      readings: [
        reading('a', { voided: 'probe slipped' }),
        reading('b', { overrange: true, measured: null, state: 'valve pulled' }),
      ],
    }),
  })
  const all = d.all('li')
  expect(all.map((l) => l.querySelector('b')?.textContent)).toEqual([words.tray.overrange, '51 kΩ'])
  expect(all[1]?.textContent).toContain('probe slipped')
  expect(all[1]?.querySelectorAll('.void')).toHaveLength(0)
  expect(all[0]?.textContent).toContain('valve pulled')
})

describe('the owl line', () => {
  const ticket = { id: 't1', parts: [strip('R4')] } as unknown as Ticket
  const line = () => {
    bench({ ticket: ref(ticket), strip: ref(ticket.parts[0]) })
    return drawn(OwlLine, {})
  }
  const understanding = {
    part: 'R4',
    part_id: 'id-R4',
    in_words: 'measures 51 kΩ',
    could_also_be: [],
    question: null,
    problem: null,
  }
  it('says how a sentence is understood, takes it on Enter, and is empty again', async () => {
    seen.answer = ({ path }) => ({
      body: path.endsWith('understand')
        ? understanding
        : { part_id: 'id-R4', in_words: 'measures 51 kΩ', written: null },
    })
    const d = line()
    type(d.one('input'), 'R4 = 51k')
    await until(() => d.one('.understood').textContent?.includes('measures 51 kΩ') === true)
    press(d.one('form'), 'submit')
    await until(() => (d.one('input') as HTMLInputElement).value === '')
    const said = seen.asked.find((a) => a.path.endsWith('/say'))
    expect(said?.body).toMatchObject({ text: 'R4 = 51k', confirmed: false, version: 3 })
    expect(seen.went).toEqual([{ select: 'R4' }])
  })
  it('what must be confirmed is asked once, and the next Enter confirms it', async () => {
    seen.answer = ({ path, body }) => {
      if (path.endsWith('understand')) return { body: understanding }
      const sure = (body as { confirmed: boolean }).confirmed
      return sure
        ? { body: { part_id: 'id-R4', in_words: 'x' } }
        : problem(422, 'Perhaps 51 kΩ was meant?', { ask: true })
    }
    const d = line()
    type(d.one('input'), 'R4 = 51G')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => d.one('.understood').textContent?.includes('Perhaps 51 kΩ') === true)
    expect((d.one('input') as HTMLInputElement).value).toBe('R4 = 51G')
    press(d.one('form'), 'submit')
    await until(() => (d.one('input') as HTMLInputElement).value === '')
    expect(
      seen.asked
        .filter((a) => a.path.endsWith('/say'))
        .map((a) => (a.body as { confirmed: boolean }).confirmed),
    ).toEqual([false, true])
  })
  it('an empty line lets the arrows go over the tray, a written one does not', async () => {
    seen.answer = () => ({ body: understanding })
    const d = line()
    const down = () =>
      d.one('input').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }))
    down()
    expect(seen.went).toEqual([{ move: 1 }])
    type(d.one('input'), 'R')
    await nextTick()
    down()
    expect(seen.went).toHaveLength(1)
  })
})

it('a conflict says what changed, and is left when everything stands as it is', async () => {
  let done = () => {}
  const b = bench({
    conflict: ref({
      detail: 'changed meanwhile',
      changed: [{ field: 'sheet', before: '6.8 kΩ', now: '7.5 kΩ' }],
    }),
    refresh: () => new Promise<void>((r) => (done = r)),
  })
  const d = drawn(ConflictDialog, {})
  expect(d.one('li').textContent?.replace(/\s+/g, ' ')).toMatch(/6.8 kΩ.*7.5 kΩ/)
  press(named(d, words.conflict.look))
  await nextTick()
  expect(b.conflict.value).not.toBeNull()
  done()
  await until(() => b.conflict.value === null)
})
