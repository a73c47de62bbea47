import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import type { Part } from '@/api/client'
import FitStep from '@/views/station/FitStep.vue'
import RefusedList from '@/views/station/RefusedList.vue'
import { words } from '@/words/en'
import { clean, field, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { strip } from './parts'
import { problem, until } from './server'

beforeEach(clean)
const text = (e: Element | undefined) => e?.textContent?.replace(/\s+/g, ' ').trim()
const refused = (description: string, because = 'too far', place = 'row 3') => ({
  description,
  because,
  place,
})

describe('what was looked at and refused', () => {
  const all = ['10 µF', '22 µF', '33 µF', '47 µF', '68 µF 450 V', '100 µF'].map((d) => refused(d))
  it('shows the nearest, the others on request, and what is looked for among all of them', async () => {
    seen.answer = ({ query }) =>
      query.get('refused') === '68u'
        ? { body: { refused: [refused('68 µF 450 V')] } }
        : query.get('refused') === 'row 9'
          ? { body: { refused: [] } }
          : problem(503, 'the database is away')
    const d = drawn(RefusedList, { part: 'r8', refused: all })
    await nextTick()
    expect(d.all('li')).toHaveLength(4)
    type(field(d, words.fit.whereIs), '68u')
    await until(() => d.all('li').length === 1)
    expect(text(d.all('s')[0])).toBe('68 µF 450 V')
    type(field(d, words.fit.whereIs), 'row 9')
    await until(() => d.text('[role=status]') === words.fit.noneRefused)
    // Away, what was found stays, and why nothing comes is said.
    type(field(d, words.fit.whereIs), '10u')
    await until(() => d.text('[role=alert]').includes('away'))
    type(field(d, words.fit.whereIs), '')
    await until(() => d.all('li').length === 4)
    press(named(d, words.fit.moreRefused(2)))
    await nextTick()
    expect(d.all('li')).toHaveLength(6)
  })
  it('a short list has nothing to look for', () => {
    const d = drawn(RefusedList, { part: 'r8', refused: all.slice(0, 3) })
    expect([d.all('li').length, d.all('input').length]).toEqual([3, 0])
  })
})

describe('what goes in', () => {
  const choice = (description: string, more: object = {}) => ({
    description,
    kind: 'resistor',
    from: 'drawers',
    family: 'metal film',
    deviation_text: null,
    entry: { value: '', tolerance: '', watts: '', volts: '', type_number: '', safety: null },
    pieces: [],
    margins: [],
    effects: [{ better: false, text: '120 V before, 128 V after' }],
    cautions: [],
    passes: [],
    worth: null,
    folded: false,
    needs_test: false,
    ...more,
  })
  const part = (more: object = {}) =>
    ({
      ...strip('R8'),
      asks: [],
      facts: [],
      safety_classes: [],
      decision: null,
      first_asked: null,
      stage_to_fit: ['R8'],
      in_words: '240 kΩ',
      ...more,
    }) as unknown as Part
  const answers = (choices: object[]) => {
    seen.answer = () => ({ body: { choices, refused: [], facts: [], advice: [] } })
  }
  it('networks of three and more stand behind a line; what it does and what it buys stand beside the choice', async () => {
    answers([
      choice('220 kΩ', { worth: 'less hiss' }),
      choice('three of them', { folded: true }),
      choice('four of them', { folded: true }),
    ])
    const d = drawn(FitStep, { part: part() })
    await until(() => d.all('.choices li').length > 0)
    expect(d.all('.choices li').map(text)).toHaveLength(1)
    expect(text(d.one('.choices li'))).toContain('120 V before, 128 V after')
    expect(text(d.one('.worth'))).toBe(`${words.fit.worth} less hiss`)
    press(named(d, words.fit.folded(2)))
    await nextTick()
    expect(d.all('.choices li')).toHaveLength(3)
  })
  it('what is one stage goes in together, unless somebody says this one only', async () => {
    seen.answer = ({ path }) =>
      path.endsWith('/stage')
        ? { body: { places: [] } }
        : { body: { choices: [choice('220 kΩ')], refused: [], facts: [], advice: [] } }
    const d = drawn(FitStep, { part: part({ stage_to_fit: ['R8', 'R9'] }) })
    await until(() => d.place.textContent?.includes(words.fit.stageNothing) === true)
    press(named(d, words.fit.alone('R8')))
    await until(() => d.all('.choices li').length > 0)
    press(named(d, words.fit.wholeStage))
    await until(() => d.all('.choices').length === 0)
  })
})
