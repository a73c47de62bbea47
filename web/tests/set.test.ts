import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Part, Ticket } from '@/api/client'
import CheckInPage from '@/views/job/CheckInPage.vue'
import SetPage from '@/views/job/SetPage.vue'
import WorthPage from '@/views/job/WorthPage.vue'
import PlaceFacts from '@/views/station/PlaceFacts.vue'
import { SHEETS, type Sheet } from '@/views/supply/sheets'
import SupplySheet from '@/views/supply/SupplySheet.vue'
import { words } from '@/words/en'
import { bench, clean, field, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { problem, until } from './server'

beforeEach(() => {
  clean()
  // A sheet asks for its values a moment after it was drawn.
  seen.answer = () => ({ body: { values: {}, wrong: {} } })
})
const sheet = (name: string) => SHEETS.find((s) => s.name === name) as Sheet
const amount = (text: string) => ({ text, value: parseFloat(text) })
const fact = (name: string, label: string, text: string, of_set = false) => ({
  fact: name,
  label,
  meaning: '',
  text,
  of_set,
})
const set = {
  facts: [
    fact('line', 'line', '226 V'),
    fact('frequency', 'line frequency', ''),
    fact('secondary', "rectifier's volts AC", '250 V'),
    fact('load_current', 'load current', ''),
  ],
  rectifier: 'bridge',
  rails: [{ name: 'HT 1', volts: amount('271 V') }],
  heaters: [{ name: 'V1', volts: amount('12.6 V'), current: amount('300 mA'), lamp: false }],
  ballast: amount('525 Ω'),
  ballast_high: null,
  ripple: null,
  settled: [{ ballast: '525 Ω', text: 'within 10 %', good: true }],
  contradictions: [] as string[],
}
const ticket = (more: object = {}) =>
  ({
    id: 't1',
    version: 3,
    name: 'Skarn receiver',
    complaint: '',
    class: { mains: true, valves: true, in_words: 'valves, battery' },
    intake: { symptoms: [], wants: '', supply: '', earlier_work: '', line: amount('220 V') },
    set: { ...set, ...more },
  }) as unknown as Ticket

describe('what is known of the set', () => {
  const w = words.job.set
  it('is sent as typed, without rows that are empty; what is wrong stands beside its row', async () => {
    bench()
    const d = drawn(SetPage, { ticket: ticket() })
    await nextTick()
    expect(d.text('.settled')).toContain('within 10 %')
    type(field(d, 'line frequency'), '50')
    press(named(d, w.addRail))
    press(named(d, w.addRail))
    await nextTick()
    const [name, volts] = (d.all('.rail input') as HTMLInputElement[]).slice(4) as [
      HTMLInputElement,
      HTMLInputElement,
    ]
    type(name, 'HT 2')
    type(volts, 'low')
    press(named(d, w.addHeater))
    await nextTick()
    const current = (d.all('.heater input') as HTMLInputElement[]).at(-2)
    expect(current?.value, 'the next of a chain carries what the last one does').toBe('300 mA')
    seen.answer = () => problem(422, "'low' is not a number", { field: 'set.rails[1].volts' })
    press(d.one('form'), 'submit')
    await until(() => d.all('.rail [role=alert]').length > 0)
    const rails = d.all('.rail')
    expect(rails[2]?.textContent).toContain("'low' is not a number")
    expect(volts.value).toBe('low')
    const body = seen.asked.at(-1)?.body as { version: number; set: typeof set }
    expect(body.version).toBe(3)
    expect(body.set.rails.map((r) => r.name)).toEqual(['HT 1', 'HT 2'])
    expect(body.set).toMatchObject({ rectifier: 'bridge', ballast: '525 Ω', facts: { frequency: '50' } })
  })
  it('is a page of check-in, with how many entries do not fit', async () => {
    bench()
    seen.answer = () => ({ body: { lines: [], all_ticked: true, attachments: [] } })
    const d = drawn(CheckInPage, { ticket: ticket({ contradictions: ['the mains is 226 V and the set …'] }) })
    await nextTick()
    expect(d.text('nav')).toContain(w.odd(1))
    press(named(d, w.page))
    await nextTick()
    expect(d.text('.cautions')).toContain('the mains is 226 V')
  })
  it('is held against what the owner wants: what is to be had, from where, at what price, and what cannot', async () => {
    const went: string[] = []
    bench({ ticket: ref(ticket()), select: (name: string) => went.push(name) })
    const need = (part: string, more: object) => ({
      part,
      best: null,
      places: [],
      price: null,
      advice: [],
      ...more,
    })
    const needs = [
      need('R3', { rarity: 'in the drawers', best: '56 kΩ 1 W', places: ['box 4'], price: '0.30' }),
      need('T1', { rarity: 'rare', advice: ['rewind it'] }),
    ]
    const sums = { parts: 2, in_drawers: 1, to_buy: 0, rare: 1, cost: '0.30', without_price: 1, needs }
    seen.answer = ({ path }) =>
      path.endsWith('feasibility') ? { body: sums } : { body: { rounds: [], rests_on: 0, expected: null } }
    const wanting = { ...ticket(), intake: { ...ticket().intake, wants: 'hear the lighthouse news' } }
    const d = drawn(WorthPage, { ticket: wanting as Ticket })
    await until(() => d.all('.needs li').length === 2)
    expect(d.text('.wants')).toBe('hear the lighthouse news')
    expect(d.text('.sum')).toBe(words.job.worth.sum(2, 1, 0, 1))
    const [there, gone] = d.all('.needs li').map((e) => e.textContent?.replace(/\s+/g, ' '))
    expect(there).toMatch(/R3.*56 kΩ 1 W.*box 4.*0.30/)
    expect(gone).toMatch(/T1.*rewind it/)
    press(named(d, 'R3'))
    expect(went).toEqual(['R3'])
  })
  it('stands in the supply sheets, beside what the part says of itself; what is found there is kept', async () => {
    const made = bench({ ticket: ref(ticket()) })
    const part = {
      name: 'D2',
      kind: 'diode',
      facts: [fact('secondary', '', '48 V'), fact('line', '', '226 V', true)],
    } as unknown as Part
    seen.answer = ({ path }) =>
      path.endsWith('/values') ? { body: { values: {}, wrong: {} } } : { body: {} }
    const d = drawn(SupplySheet, { sheet: sheet('rectifier'), part })
    await nextTick()
    expect(field(d, 'volts AC at the rectifier').value).toBe('48 V')
    expect(field(d, 'the rail should be').value).toBe('271 V')
    expect(field(d, 'line frequency').value, 'never another figure silently').toBe('')
    expect(d.text('.ask .note')).toBe(`${words.supply.from} D2${words.supply.and}${words.supply.ofSet}`)
    seen.answer = () => ({ body: { values: { current: amount('62 mA') }, wrong: {} } })
    type(field(d, 'load current'), '62 mA')
    await until(() => d.text('form').includes(words.supply.keepForSet))
    press(named(d, words.supply.keepForSet))
    await until(() => seen.asked.some((a) => a.method === 'PATCH'))
    expect(seen.asked.find((a) => a.method === 'PATCH')?.body).toEqual({
      version: made.ticket.value?.version,
      set: { facts: { load_current: '62 mA' } },
    })
    const chain = drawn(SupplySheet, { sheet: sheet('heaters'), part: null })
    await nextTick()
    expect(field(chain, 'ballast that is there').value).toBe('525 Ω')
    expect((chain.all('.row input') as HTMLInputElement[]).map((i) => i.value)).toContain('300 mA')
  })
  it('a part says which of several rails it hangs on', async () => {
    const rails = [...set.rails, { name: 'HT 2', volts: amount('190 V') }]
    bench({ ticket: ref(ticket({ rails })) })
    const part = { id: 'p1', version: 1 } as unknown as Part
    const facts = [fact('rail', 'rail', ''), fact('secondary', 'volts AC', '250 V', true)]
    const d = drawn(PlaceFacts, { part, facts })
    await nextTick()
    expect(d.text('.place p')).toContain(words.fit.ofSet)
    press(named(d, words.fit.say))
    await nextTick()
    press(named(d, 'HT 2 190 V'))
    await nextTick()
    press(d.one('form'), 'submit')
    const sent = () => seen.asked.find((a) => a.method === 'PATCH')
    await until(() => sent() !== undefined)
    expect(sent()?.body).toMatchObject({ facts: { rail: '190 V' } })
  })
})
