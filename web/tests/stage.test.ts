import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, reactive, ref } from 'vue'
import type { Part, StagePlace } from '@/api/client'
import StageFit from '@/views/station/StageFit.vue'
import SuspectNames from '@/views/station/SuspectNames.vue'
import { words } from '@/words/en'
import { bench, clean, field, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { problem, until } from './server'

beforeEach(clean)
const part = (more: object = {}) =>
  ({
    id: 'p7',
    version: 4,
    name: 'Q7',
    kind: 'transistor',
    strip: {},
    first_asked: null,
    suspects_unnamed: [],
    stage_to_fit: ['Q7', 'Q8'],
    ...more,
  }) as unknown as Part
const choice = (description: string, place: string) => ({
  description,
  kind: 'transistor',
  family: 'silicon',
  from: 'drawers',
  entry: { value: '', tolerance: '', watts: '', volts: '', type_number: 'BD139', safety: null },
  pieces: [{ lot: 'l1', description, place, count: 4 }],
  cautions: [],
  needs_test: false,
})
const place = (name: string, more: object = {}): StagePlace =>
  ({
    part: `id-${name}`,
    name,
    version: 3,
    choices: [choice('BD139', 'tin 2'), choice('BD137', 'tin 5')],
    because: null,
    measurable: true,
    asked: null,
    ...more,
  }) as unknown as StagePlace
const asked = (method: string) => seen.asked.filter((a) => a.method === method)

describe('a stage that goes in with one press', () => {
  it('sends what was chosen and measured for each place, and leads to the proof', async () => {
    seen.answer = ({ method }) =>
      method === 'GET' ? { body: { places: [place('Q7'), place('Q8')] } } : { body: {} }
    const d = drawn(StageFit, { part: part() })
    await until(() => d.all('.places li').length === 2)
    expect(d.text('.foot')).toContain(words.fit.together(2))
    type(field(d, words.fit.gain), '91')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => asked('POST').length > 0)
    const { fittings } = asked('POST')[0]?.body as { fittings: { part: string; fitting: { key: string } }[] }
    expect(fittings).toMatchObject([
      {
        part: 'id-Q7',
        fitting: { measured: '91', type_number: 'BD139', version: 3, pieces: [{ lot: 'l1' }] },
      },
      { part: 'id-Q8', fitting: { measured: '' } },
    ])
    expect(fittings[0]?.fitting.key).not.toBe(fittings[1]?.fitting.key)
    await until(() => seen.went.length > 0)
    expect(seen.went).toEqual([{ step: 'prove' }])
  })
  it('what is wrong stands at its place, what falls short asks why there, and what was typed stays', async () => {
    const answers = [
      problem(422, 'often is no gain', { field: 'fittings[1].measured' }),
      problem(422, 'falls short: 12 V', { field: 'fittings[0].despite' }),
    ]
    seen.answer = ({ method }) =>
      method === 'GET' ? { body: { places: [place('Q7'), place('Q8')] } } : (answers.shift() ?? { body: {} })
    const d = drawn(StageFit, { part: part() })
    await until(() => d.all('.places li').length === 2)
    press(d.one('form'), 'submit')
    await until(() => d.all('[role=alert]').length > 0)
    expect(d.all('.places li')[1]?.textContent).toContain('often is no gain')
    type(field(d, words.fit.gain), '88')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => d.all('[data-test=despite]').length > 0)
    expect(d.all('.places li')[0]?.textContent).toContain('falls short: 12 V')
    expect(field(d, words.fit.gain).value).toBe('88')
  })
  it('with the database away, what is shown and typed stays in view', async () => {
    seen.answer = () => ({ body: { places: [place('Q7'), place('Q8')] } })
    const away = ref(true)
    bench({ connected: away })
    const d = drawn(StageFit, { part: part() })
    await until(() => d.all('.places li').length === 2)
    type(field(d, words.fit.gain), '91')
    seen.answer = () => problem(503, 'the database does not answer')
    away.value = false
    await until(() => seen.asked.length > 1)
    await nextTick()
    expect(d.all('.places li')).toHaveLength(2)
    expect(field(d, words.fit.gain).value).toBe('91')
  })
  it('leads to the place at which something is to be answered first, and sends nothing', async () => {
    seen.answer = () => ({ body: { places: [place('R31', { asked: 'disagreement' }), place('Q7')] } })
    const d = drawn(StageFit, { part: part() })
    await until(() => d.all('.places li').length === 2)
    press(d.one('form'), 'submit')
    await nextTick()
    expect(seen.went).toEqual([{ select: 'R31' }])
    expect(asked('POST')).toEqual([])
  })
  it('says why there is nothing for a place, and can be left for the part alone', async () => {
    const alone = vi.fn()
    seen.answer = () => ({
      body: { places: [place('Q7'), place('Q8', { choices: [], because: 'read it first' })] },
    })
    const d = drawn(StageFit, { part: part(), onAlone: alone })
    await until(() => d.all('.places li').length === 2)
    expect(d.all('.places li')[1]?.textContent).toContain('read it first')
    press(d.one('form'), 'submit')
    press(named(d, words.fit.alone('Q7')))
    expect([alone.mock.calls.length, asked('POST').length]).toEqual([1, 0])
  })
})

describe('what may have died with it', () => {
  const w = words.transistor.station
  const unnamed = ['driver', 'bias diode or thermistor'].map((role) => ({
    role,
    why: 'it dies',
    look: 'lift it',
  }))
  it('is named one after the other; a wrong name stands beside its field', async () => {
    const props = reactive({ part: part({ suspects_unnamed: unnamed }) })
    const answers = [problem(422, 'C5 is a capacitor', { field: 'name' })]
    seen.answer = () => answers.shift() ?? { body: {} }
    const d = drawn(SuspectNames, props)
    await nextTick()
    type(field(d, w.nameOnSheet), 'C5')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => d.all('[role=alert]').length > 0)
    expect(d.text('[role=alert]')).toBe('C5 is a capacitor')
    expect(field(d, w.nameOnSheet).value).toBe('C5')
    expect(seen.asked[0]).toMatchObject({
      path: '/api/parts/p7/suspects',
      body: { version: 4, role: 'driver', name: 'C5' },
    })
    props.part = part({ suspects_unnamed: unnamed.slice(1), version: 5 })
    await nextTick()
    expect(d.text('.role')).toContain('bias diode')
    expect(field(d, w.nameOnSheet).value).toBe('')
  })
  it('or the set has none, with the reason', async () => {
    const d = drawn(SuspectNames, { part: part({ suspects_unnamed: unnamed }) })
    await nextTick()
    press(named(d, w.notThere))
    await nextTick()
    expect(document.activeElement).toBe(field(d, w.whyNone))
    type(field(d, w.whyNone), 'a transformer drives it')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => seen.asked.length > 0)
    expect(seen.asked[0]?.body).toEqual({ version: 4, role: 'driver', none: 'a transformer drives it' })
  })
})
