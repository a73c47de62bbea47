import { beforeEach, expect, test } from 'vitest'
import { nextTick } from 'vue'
import { Problem } from '@/api/client'
import { useDraft } from '@/components/useDraft'
import type { Bench } from '@/views/bench/useBench'
import { useSending } from '@/views/station/useSending'
import { inView } from './server'

/** A bench on which every change goes as it is told. */
function bench(outcomes: (Problem | 'done')[]) {
  const change = async <T>(work: () => Promise<T>) => {
    const next = outcomes.shift() ?? 'done'
    const done = await work()
    return next === 'done' ? { done } : { problem: next }
  }
  return { change } as unknown as Bench
}
const told = (sent: object[]) => async (how: { key: string; confirmed: boolean }) => {
  sent.push(how)
  return 'written'
}
beforeEach(() => sessionStorage.clear())

test('what is sent again after a lost answer goes under the same key; another content under another', async () => {
  const sent: { key: string; confirmed: boolean }[] = []
  const s = useSending(bench([new Problem(0, 'nobody'), 'done', 'done']))
  expect(await s.send({ typed: '4k7' }, told(sent))).toBeUndefined()
  expect(s.problem.value?.away).toBe(true)
  expect(await s.send({ typed: '4k7' }, told(sent))).toBe('written')
  await s.send({ typed: '4k8' }, told(sent))
  expect(sent[0]?.key).toBe(sent[1]?.key)
  expect(sent[2]?.key).not.toBe(sent[1]?.key)
})

test('a question is confirmed by the next press, and not when something else was typed since', async () => {
  const sent: { key: string; confirmed: boolean }[] = []
  const asks = () => new Problem(422, 'a thousand times?', 'typed', true)
  const s = useSending(bench([asks(), 'done', asks(), 'done']))
  await s.send({ typed: '1M' }, told(sent))
  expect(s.wrong('typed')).toBe('a thousand times?')
  await s.send({ typed: '1M' }, told(sent))
  await s.send({ typed: '2M' }, told(sent))
  await s.send({ typed: '3M' }, told(sent))
  expect(sent.map((h) => h.confirmed)).toEqual([false, true, false, false])
})

test('a problem stands beside its own field, and a conflict beside none', async () => {
  const s = useSending(bench([new Problem(422, 'no number', 'watts'), new Problem(409, 'changed')]))
  await s.send({ a: 1 }, told([]))
  expect([s.wrong('watts'), s.wrong('volts')]).toEqual(['no number', null])
  await s.send({ a: 2 }, told([]))
  expect(s.problem.value).toBeNull()
})

test('nothing is sent twice at once', async () => {
  let let_go = () => {}
  const slow = {
    change: <T>(work: () => Promise<T>) => work().then((done) => ({ done })),
  } as unknown as Bench
  const s = useSending(slow)
  let begun = 0
  const work = () => {
    begun++
    return new Promise<string>((r) => (let_go = () => r('written')))
  }
  const first = s.send({ a: 1 }, work)
  expect(await s.send({ a: 1 }, work)).toBeUndefined()
  let_go()
  expect(await first).toBe('written')
  expect(begun).toBe(1)
})

test('another form that is sent meanwhile waits its turn, and is sent', async () => {
  const order: string[] = []
  const s = useSending(bench(['done', new Problem(422, 'no volts', 'line'), 'done']))
  const slow = (name: string) => async () => {
    order.push(`${name} begins`)
    await new Promise((r) => setTimeout(r))
    order.push(`${name} ends`)
    return name
  }
  const all = ['board', 'set', 'point'].map((name) => s.send({ name }, slow(name)))
  expect(await Promise.all(all)).toEqual(['board', undefined, 'point'])
  expect(order).toEqual(['board', 'set', 'point'].flatMap((n) => [`${n} begins`, `${n} ends`]))
  expect(s.busy.value).toBe(false)
})

test('a draft outlives its view, not its version', async () => {
  const made = (version: number) => inView(() => useDraft('R4:typed', version)).value
  const draft = made(3)
  draft.value = '4k6'
  await nextTick()
  expect([made(3).value, made(4).value]).toEqual(['4k6', ''])
  draft.value = ''
  await nextTick()
  expect(made(3).value).toBe('')
})
