import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import type { Run } from '@/api/client'
import RunActions from '@/views/reform/RunActions.vue'
import RunNumbers from '@/views/reform/RunNumbers.vue'
import SixReadings from '@/views/transistor/SixReadings.vue'
import { words } from '@/words/en'
import { clean, press, seen } from './bench'
import { drawn } from './drawn'

beforeEach(clean)
const text = (e: Element | undefined) => e?.textContent?.replace(/\s+/g, ' ').trim()

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
