import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import type { Choice, Judgement, Part } from '@/api/client'
import ChoiceCard from '@/views/station/ChoiceCard.vue'
import JudgeStep from '@/views/station/JudgeStep.vue'
import ProveStep from '@/views/station/ProveStep.vue'
import ReadingTable from '@/views/station/ReadingTable.vue'
import ReasonList from '@/views/station/ReasonList.vue'
import { words } from '@/words/en'
import { clean, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { amount, strip } from './parts'
import { problem, until } from './server'

beforeEach(clean)

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
    expect(document.activeElement).toBe(d.one('.other .el-input__inner'))
    type(d.one('.other .el-input__inner'), 'owner wants it kept')
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
    stage_to_prove: ['R3'],
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
  it('what is seen is sent with how the set is for it', async () => {
    const d = drawn(ProveStep, { part: part(fitted) })
    type(d.one('textarea'), 'plays, no hum')
    await nextTick()
    press(named(d, words.prove.outcome.better))
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/fittings/f1/proof',
      body: { outcome: 'better', seen: 'plays, no hum', checks: [] },
    })
    await until(() => (d.one('textarea') as HTMLTextAreaElement).value === '')
  })
  it('refused, what was typed stays', async () => {
    seen.answer = () => problem(422, 'say what you saw', { field: 'seen' })
    const d = drawn(ProveStep, { part: part(fitted) })
    type(d.one('textarea'), '.')
    await nextTick()
    press(named(d, words.prove.outcome['as before']))
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
