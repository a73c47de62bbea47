import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Changes, Closing, FeedSuspect } from '@/api/client'
import AddChange from '@/views/job/AddChange.vue'
import PowerPage from '@/views/job/PowerPage.vue'
import SoakTest from '@/views/job/SoakTest.vue'
import SuspectList from '@/views/job/SuspectList.vue'
import { words } from '@/words/en'
import { bench, clean, field, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { problem, until } from './server'

beforeEach(clean)
const text = (e: Element | undefined) => e?.textContent?.replace(/\s+/g, ' ').trim()

describe('the job', () => {
  const w = words.job
  it('a change over an open one is asked for its reason, and both are sent', async () => {
    const added = vi.fn()
    seen.answer = ({ body }) =>
      (body as { over_open: string }).over_open
        ? { body: { changes: [] } }
        : problem(422, 'C5 is open: why?', { field: 'over_open' })
    const d = drawn(AddChange, { kinds: ['joint', 'wire'] as Changes['kinds'], ticket: 't1', onAdded: added })
    await nextTick()
    type(field(d, w.changes.what), 'earth lug resoldered')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => d.all('[role=alert]').length > 0)
    type(field(d, w.changes.overField), 'waiting for the part')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => added.mock.calls.length > 0)
    expect(seen.asked.at(-1)?.body).toMatchObject({
      kind: 'joint',
      what: 'earth lug resoldered',
      over_open: 'waiting for the part',
    })
    expect(field(d, w.changes.what).value).toBe('')
  })
  const closing = (more: object = {}): Closing =>
    ({ soaks: [], left: [], words: '', closed_at: null, ...more }) as unknown as Closing
  it('a soak test is begun, looked at when it is due, and what is seen is sent', async () => {
    const taken = vi.fn()
    const begin = drawn(SoakTest, { closing: closing(), ticket: 't1', onTaken: taken })
    await nextTick()
    type(field(begin, w.close.planned), '3 h')
    await nextTick()
    press(begin.one('form'), 'submit')
    await until(() => taken.mock.calls.length > 0)
    expect(seen.asked[0]).toMatchObject({
      path: '/api/tickets/t1/soaks',
      body: { planned: '3 h', every: '15 min' },
    })
    const begun_at = new Date(Date.now() - 2_000_000).toISOString()
    const soak = {
      id: 's1',
      begun_at,
      ran: '33 min',
      planned_s: 7200,
      due_s: 900,
      checks: [{ after: '15 min', well: true, seen: 'cool' }],
    }
    const d = drawn(SoakTest, { closing: closing({ soaks: [soak] }), ticket: 't1', onTaken: taken })
    expect(d.text('.due')).toBe(w.close.dueNow)
    await nextTick()
    type(field(d, w.close.seen), 'hums when warm')
    await nextTick()
    press(named(d, w.close.notWell))
    await until(() => taken.mock.calls.length > 1)
    expect(seen.asked.at(-1)).toMatchObject({
      path: '/api/soaks/s1/checks',
      body: { well: false, seen: 'hums when warm' },
    })
    expect(
      drawn(SoakTest, { closing: closing({ closed_at: begun_at, soaks: [soak] }), ticket: 't1' }).all('form'),
    ).toHaveLength(0)
  })
  it('first power: a lamp in series must have told its story before the step is taken', async () => {
    const volts = { number: '60', unit: 'V', text: '60 V', value: 60 }
    const log = {
      bulb: null,
      missing: null,
      ups: [],
      stories: ['dark', 'dim'],
      signs: [{ sense: 'heard', sign: 'hum' }],
      plan: [{ share: 0.3, volts, hold: { text: '60 s' }, watch: 'smell' }],
    }
    bench({
      ticket: ref({
        id: 't1',
        class: { mains: true },
        cautions: [
          { step: 'prove', text: 'hands out' },
          { step: 'fit', text: 'not here' },
        ],
      }),
    })
    seen.answer = () => ({ body: log })
    const d = drawn(PowerPage, {})
    await until(() => d.all('form').length > 0)
    expect(d.text('.cautions')).toBe('hands out')
    await until(() => field(d, w.power.volts).value === '60 V')
    type(field(d, w.power.bulb), '60 W')
    await nextTick()
    press(d.one('form'), 'submit')
    await nextTick()
    expect(d.text('.problem')).toBe(w.power.sayStory)
    const dim = d.all('input[type=radio]')[1] as HTMLInputElement
    dim.checked = true
    press(dim, 'change')
    press(named(d, 'hum'))
    await nextTick()
    expect(d.all('.problem')).toHaveLength(0)
    press(d.one('form'), 'submit')
    await until(() => seen.asked.some((a) => a.method === 'POST'))
    expect(seen.asked.find((a) => a.method === 'POST')?.body).toMatchObject({
      volts: '60 V',
      bulb: '60 W',
      story: 'dim',
      signs: ['hum'],
    })
  })
  it('a set on batteries comes up on a bench supply: no lamp is asked for', async () => {
    const log = { bulb: null, missing: null, ups: [], stories: ['no lamp in series'], signs: [], plan: [] }
    bench({ ticket: ref({ id: 't1', class: { mains: false }, cautions: [] }) })
    seen.answer = () => ({ body: log })
    const d = drawn(PowerPage, {})
    await until(() => d.all('form').length > 0)
    expect(d.all('label').map(text)).not.toContain(w.power.bulb)
    expect(d.all('fieldset')).toHaveLength(0)
    type(field(d, w.power.benchSupply), '9 V')
    await nextTick()
    press(d.one('form'), 'submit')
    await until(() => seen.asked.some((a) => a.method === 'POST'))
    const sent = { volts: '9 V', bulb: '', story: 'no lamp in series' }
    expect(seen.asked.find((a) => a.method === 'POST')?.body).toMatchObject(sent)
  })
  it('of the suspects one is accused; those that explain it alike are counted, those on the tray led to', () => {
    const suspect = (ref: string, explains: number): FeedSuspect =>
      ({
        ref,
        fault: 'leak',
        explains,
        text: `${ref} leaking`,
        because: 'x',
        overloaded: [{ ref: 'R3', text: 'R3 cooks' }],
      }) as unknown as FeedSuspect
    const [accuse, select] = [vi.fn(), vi.fn()]
    const d = drawn(SuspectList, {
      suspects: [suspect('C6', 0.9), suspect('V1', 0.9), suspect('R3', 0.1)],
      onTray: ['C6'],
      modelValue: 0,
      'onUpdate:modelValue': accuse,
      onSelect: select,
    })
    expect(text(d.one('h3 .watch'))).toBe(`2 ${w.feed.equal}`)
    expect(d.all('li').map((l) => l.classList.contains('on'))).toEqual([true, false, false])
    press(d.all('li')[2]?.querySelector('button') ?? undefined)
    expect(accuse).toHaveBeenLastCalledWith(2)
    press(named(d, w.feed.select))
    expect(select).toHaveBeenCalledWith('C6')
    press(named(d, w.feed.healthy))
    expect(accuse).toHaveBeenLastCalledWith(null)
  })
})
