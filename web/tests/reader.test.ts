import { beforeEach, expect, test } from 'vitest'
import type { Colour, Scheme } from '@/api/client'
import { useMarking } from '@/views/reader/useMarking'
import { inView, problem, serve, until, type Asked } from './server'

const SCHEMES = {
  schemes: [
    {
      scheme: 'bands',
      part: 'resistor',
      orders: [
        { code: 'three', places: ['1', '2', 'x'] },
        { code: 'four', places: ['1', '2', 'x', 't'] },
      ],
    },
    { scheme: 'mica-three-dot', part: 'capacitor', orders: [{ code: 'dots', places: ['1', '2', 'x'] }] },
  ],
}
const meaning = (more: object = {}) => ({
  part: 'resistor',
  code: 'colour bands',
  scheme: 'bands',
  sections: [],
  bands: null,
  band_words: [],
  ...more,
})
let decoded: (asked: Asked) => ReturnType<typeof problem>
beforeEach(() => (decoded = () => ({ body: { readings: [meaning()], seen: null } })))

function reader(start: { text?: string; scheme?: Scheme | null; colours?: Colour[] } = {}) {
  const asked = serve((a) => (a.path === '/api/schemes' ? { body: SCHEMES } : decoded(a)))
  const { value } = inView(() =>
    useMarking(() => ({ part: null }), { text: '', scheme: null, colours: [], ...start }),
  )
  const questions = () => asked.filter((a) => a.path === '/api/decode').map((a) => a.body)
  return { m: value, questions }
}

test('a painted colour goes into the chosen place, and the hand goes on to the next', async () => {
  const { m, questions } = reader()
  await until(() => m.offered.value.length > 0)
  m.take('bands')
  m.paint('brown')
  m.paint('black')
  m.paint('red')
  expect([m.text.value, m.chosen.value]).toEqual(['brown black red', 3])
  m.choose(1)
  m.paint('green')
  expect(m.colours.value).toEqual(['brown', 'green', 'red'])
  await until(() => (questions().at(-1) as { colours?: string[] } | undefined)?.colours?.length === 3)
  expect(questions().at(-1)).toMatchObject({
    colours: ['brown', 'green', 'red'],
    scheme: 'bands',
    part: 'resistor',
  })
  m.takeAway()
  expect(m.text.value).toBe('brown green')
  m.clear()
  expect([m.text.value, m.colours.value, m.answer.value]).toEqual(['', [], null])
})

test('more colours than the body has places do not fit on it', async () => {
  const { m } = reader({ scheme: 'mica-three-dot' })
  await until(() => m.most.value > 0)
  for (const c of ['red', 'red', 'brown', 'green'] as const) m.paint(c)
  expect(m.colours.value).toHaveLength(3)
})

test('the drawing follows what is typed, and typing leaves a body that it does not fit', async () => {
  decoded = ({ body }) => {
    const q = body as { text?: string; scheme?: string }
    if (q.scheme) return problem(422, 'no such dots', { field: 'colours' })
    return { body: { readings: [meaning()], seen: ['yellow', 'violet', 'red'] } }
  }
  const { m } = reader({ scheme: 'mica-three-dot', text: 'yellow violet red' })
  await until(() => m.colours.value.length === 3)
  expect([m.scheme.value, m.colours.value]).toEqual([null, ['yellow', 'violet', 'red']])
  m.text.value = ''
  await until(() => m.answer.value === null)
  expect([m.colours.value, m.answer.value]).toEqual([[], null])
})

test('print on a resistor is drawn as the bands that it would have', async () => {
  decoded = () => ({
    body: {
      readings: [meaning({ scheme: null, code: 'letter code', bands: ['yellow', 'violet', 'red'] })],
      seen: null,
    },
  })
  const { m } = reader({ text: '4k7' })
  await until(() => m.answer.value !== null)
  expect(m.colours.value).toEqual(['yellow', 'violet', 'red'])
})

test('a measured value that cannot be read leaves the reading standing', async () => {
  const { m } = reader({ text: '4k7' })
  await until(() => m.answer.value !== null)
  decoded = () => problem(422, 'no number', { field: 'measured' })
  m.text.value = '4k7 '
  await until(() => m.wrong.value !== null)
  expect([m.wrong.value?.detail, m.answer.value?.length]).toEqual(['no number', 1])
  decoded = () => problem(422, 'no marking', { field: 'text' })
  m.text.value = 'zz'
  await until(() => m.wrong.value?.detail === 'no marking')
  expect(m.answer.value).toBeNull()
})
