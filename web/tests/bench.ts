import { vi } from 'vitest'
import { ref } from 'vue'
import type { Strip, Ticket } from '@/api/client'
import * as benches from '@/views/bench/useBench'
import { wipe, type drawn } from './drawn'
import { serve, type Answer, type Asked } from './server'

/** What the server of a test answers, what it was asked, and where the bench was led. */
export const seen = {
  answer: (() => ({ body: {} })) as (asked: Asked) => Answer,
  asked: [] as Asked[],
  went: [] as object[],
}

/** A bench as the views see it; what is changed on it is sent, and where it is led is remembered. */
export function bench(more: object = {}) {
  seen.went = []
  const made = {
    workshop: ref({
      words: {
        verdicts: ['keep', 'watch', 'replace', 'measure again'],
        positions: [{ kind: 'resistor', positions: ['cathode', 'grid leak'] }],
        families: [{ kind: 'resistor', families: ['carbon film', 'metal film'] }],
        instrument_kinds: ['multimeter', 'leakage tester'],
        quantities: [{ called: 'resistance', quantities: ['resistance'] }],
        modes: ['dc', 'ac'],
        settings: ['film', 'electrolytic'],
      },
    }),
    ticket: ref(null as Ticket | null),
    ticketId: ref('t1'),
    strip: ref(null as Strip | null),
    part: ref(null),
    connected: ref(true),
    loading: ref(false),
    missing: ref(null),
    conflict: ref(null as object | null),
    handed: ref(null as object | null),
    live: ref([] as object[]),
    tool: ref(null),
    page: ref('parts'),
    deed: ref(null),
    lookAtDeeds: vi.fn(() => Promise.resolve()),
    charted: ref(0),
    lookedAt: ref(null),
    probing: ref(false),
    heard: ref(0),
    go: (to: object) => seen.went.push(to),
    cautionsAt: (...at: string[]) => made.ticket.value?.cautions.filter((c) => at.includes(c.step)) ?? [],
    move: (by: number) => seen.went.push({ move: by }),
    select: (name: string) => seen.went.push({ select: name }),
    openTool: (name: string | null) => seen.went.push({ tool: name }),
    refresh: vi.fn(() => Promise.resolve()),
    refreshWorkshop: vi.fn(() => Promise.resolve()),
    change: async (work: () => Promise<unknown>) => {
      try {
        return { done: await work() }
      } catch (e) {
        return { problem: e }
      }
    },
    ...more,
  } as unknown as benches.Bench
  vi.spyOn(benches, 'useBench').mockReturnValue(made)
  return made
}

/** Before each test: nothing is kept, nothing is drawn, and the server has been asked nothing. */
export function clean() {
  sessionStorage.clear()
  localStorage.clear()
  wipe()
  seen.answer = () => ({ body: { neighbours: [] } })
  seen.asked = serve((a) => seen.answer(a))
  bench()
}

export const press = (e: Element | undefined, type = 'click') =>
  e?.dispatchEvent(new MouseEvent(type, { bubbles: true, cancelable: true }))
export const named = (d: ReturnType<typeof drawn>, name: string) =>
  d.all('button').find((b) => b.textContent?.includes(name))
export function type(field: Element | undefined, text: string) {
  const input = field as HTMLInputElement
  input.value = text
  input.dispatchEvent(new Event('input', { bubbles: true }))
}
/** The field below a label. */
export function field(d: ReturnType<typeof drawn>, label: string): HTMLInputElement {
  const found = d.all('label').find((l) => l.textContent?.trim().startsWith(label))
  const id = found?.getAttribute('for')
  const input = id ? d.place.querySelector(`[id="${id}"]`) : null
  if (!input) throw new Error(`no field is called ${label}`)
  return input as HTMLInputElement
}
