import { beforeEach, describe, expect, it } from 'vitest'
import { computed, nextTick, ref } from 'vue'
import type { Ticket } from '@/api/client'
import ConflictDialog from '@/views/bench/ConflictDialog.vue'
import OwlLine from '@/views/bench/OwlLine.vue'
import PartStrip from '@/views/bench/PartStrip.vue'
import TrayList from '@/views/bench/TrayList.vue'
import { useTicket } from '@/views/bench/useTicket'
import { words } from '@/words/en'
import { bench, clean, named, press, seen, type } from './bench'
import { drawn } from './drawn'
import { amount, strip } from './parts'
import { inView, problem, serve, until } from './server'

beforeEach(clean)

describe('a part on the tray', () => {
  const of = (more: object, free = false) =>
    drawn(PartStrip, { part: strip('R4', more), selected: false, free })
  it.each([
    [{}, words.verdict.keep, 'keep'],
    [{ says: 'measure again' }, words.verdict['measure again'], 'again'],
    [{ says: null, status: 'unmeasured' }, words.status.unmeasured, 'open'],
    [{ says: 'keep', status: 'proven' }, words.status.proven, 'keep'],
    [{ says: 'replace', status: 'worse' }, words.status.worse, 'replace'],
    [{ says: null, status: 'as before' }, words.status['as before'], 'open'],
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
    also: [],
    pieces: [],
    was: [],
    which: [],
    could_also_be: [],
    question: null,
    problem: null,
  }
  it('says how a sentence is understood, takes it on Enter, and is empty again', async () => {
    seen.answer = ({ path }) => ({
      body: path.endsWith('understand')
        ? understanding
        : { part_id: 'id-R4', in_words: 'measures 51 kΩ', written: null, also: [] },
    })
    const d = line()
    type(d.one('input'), 'R4 = 51k')
    await until(() => d.one('.understood').textContent?.includes('measures 51 kΩ') === true)
    press(d.one('form'), 'submit')
    await until(() => (d.one('input') as HTMLInputElement).value === '')
    const said = seen.asked.find((a) => a.path.endsWith('/say'))
    expect(said?.body).toMatchObject({ text: 'R4 = 51k', confirmed: false, version: 3 })
    expect(seen.went).toEqual([{ part: 'R4', step: null }])
  })
  it('what must be confirmed is asked once, and the next Enter confirms it', async () => {
    seen.answer = ({ path, body }) => {
      if (path.endsWith('understand')) return { body: understanding }
      const sure = (body as { confirmed: boolean }).confirmed
      return sure
        ? { body: { part_id: 'id-R4', in_words: 'x', also: [] } }
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

it('of two parts that are looked at one after the other the answer that comes late is not shown', async () => {
  const at = ref('R3')
  let late: (() => void) | undefined
  const lying = (name: string) => ({ ...strip(name), id: name })
  serve(({ path }) =>
    path.endsWith('/parts/R2')
      ? new Promise((done) => (late = () => done({ body: lying('R2') })))
      : path.includes('/parts/')
        ? { body: lying('R3') }
        : { body: { id: 't1', parts: [lying('R2'), lying('R3')] } },
  )
  const { value: t } = inView(() =>
    useTicket(
      computed(() => 't1'),
      computed(() => at.value),
    ),
  )
  await t.fetchTicket()
  expect(t.part.value?.name).toBe('R3')
  at.value = 'R2'
  const asked = t.fetchPart()
  await until(() => late !== undefined)
  at.value = 'R3'
  late?.()
  await asked
  expect(t.part.value?.name).toBe('R3')
})
