import { beforeEach, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Part } from '@/api/client'
import ImportResult from '@/components/ImportResult.vue'
import PageHead from '@/components/PageHead.vue'
import LiveRuns from '@/views/bench/LiveRuns.vue'
import { useLiveRuns } from '@/views/bench/useLiveRuns'
import AskedWhy from '@/views/station/AskedWhy.vue'
import { useFirstAsked } from '@/views/station/useFirstAsked'
import { useBench } from '@/views/bench/useBench'
import { words } from '@/words/en'
import { bench, clean, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { inView, problem, until } from './server'

beforeEach(clean)

const run = (part: string, charged: boolean) => ({ id: part, part, set: 'Skerry 4', charged })

it('what has volts on it stands there with its set, and leads to its bench; what has none does not', async () => {
  bench({ live: ref([run('C3', true), run('C4', true)]) })
  const d = drawn(LiveRuns, {})
  expect(d.text('.live')).toContain('C3')
  expect(d.text('.live')).toContain('Skerry 4')
  press(named(d, 'C4'))
  expect(seen.went).toEqual([{ tool: 'reform' }])
  ;(useBench().live as unknown as { value: object[] }).value = []
  await nextTick()
  expect(d.all('.live')).toEqual([])
})

it('only what is charged is kept, and stays known while the database is away', async () => {
  seen.answer = () => ({ body: { queue: [run('C3', true), run('C5', false)] } })
  const { value: live } = inView(() => useLiveRuns())
  await until(() => live.value.length === 1)
  expect(live.value[0]?.part).toBe('C3')
  seen.answer = () => problem(503, 'away')
  const { value: again } = inView(() => useLiveRuns())
  await nextTick()
  expect([live.value.length, again.value.length]).toEqual([1, 0])
})

it('what falls short is said, and why it goes in all the same is typed below it', () => {
  let why = ''
  const d = drawn(AskedWhy, {
    asked: '63 V where 400 V are needed',
    label: words.fit.despite,
    test: 'despite',
    modelValue: '',
    'onUpdate:modelValue': (v: string) => (why = v),
  })
  expect(d.text('[role=alert]')).toContain('63 V where 400 V are needed')
  expect(d.text('label')).toBe(words.fit.despite)
  type(d.one('input'), 'until Friday')
  expect(why).toBe('until Friday')
})

it('a question that stands before Fit is opened and its first answer is in the hand; a suspect is selected', async () => {
  const place = document.createElement('div')
  place.innerHTML =
    '<div class="questions"><div class="cause"><button data-test="answer" aria-expanded="false"></button><input /></div></div>'
  document.body.append(place)
  let opened = 0
  place.querySelector('button')?.addEventListener('click', () => (opened += 1))
  const asks = (question: string, parts: string[] = []) =>
    useFirstAsked(useBench(), () => ({ first_asked: { question, parts } }) as unknown as Part).first()
  asks('cause')
  await nextTick()
  expect([opened, document.activeElement]).toEqual([1, place.querySelector('input')])
  // One that is open already is not shut.
  place.querySelector('button')?.setAttribute('aria-expanded', 'true')
  asks('cause')
  expect(opened).toBe(1)
  asks('suspects', ['Q6', 'R9'])
  expect(seen.went).toEqual([{ select: 'Q6' }])
})

it('a file that came in says how many rows went in, and which did not with the column once', () => {
  let shut = 0
  const refused = [
    { line: 3, column: 'value', why: "value: 'often' is not a number" },
    { line: 9, column: 'ic', why: 'above zero' },
  ]
  const d = drawn(ImportResult, {
    imported: { added: 4, changed: 1, refused, refused_in_all: 2 },
    onClose: () => (shut += 1),
  })
  const lines = d.all('li').map((l) => l.textContent?.replace(/\s+/g, ' ').trim())
  expect(lines).toEqual(["line 3 value: 'often' is not a number", 'line 9 ic: above zero'])
  press(d.one('.link'))
  expect(shut).toBe(1)
})

it('the head of a page has its name as a heading, or none', () => {
  expect(drawn(PageHead, { title: 'Cards', level: 1 }).text('h1')).toBe('Cards')
  expect(drawn(PageHead, { title: 'Cards' }).text('h2')).toBe('Cards')
  expect(drawn(PageHead, {}).all('h1, h2')).toEqual([])
})
