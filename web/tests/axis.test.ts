import { describe, expect, it } from 'vitest'
import type { Dial, Gauge } from '@/api/client'
import { around, between, decades, dialScale, driftScale, timeAxis } from '@/drawing/axis'

const amount = (value: number) => ({ value, number: String(value), unit: '', text: String(value) })
const window = (low: number, high: number) => ({ low, high, text: '', low_text: '', high_text: '' })

function gauge(
  nominal: number,
  share: [number, number],
  reading: number | null,
  unit = { name: 'Ω', size: 1 },
) {
  const sides = window(nominal * (1 - share[0]), nominal * (1 + share[1]))
  const read =
    reading == null ? null : { least: reading * 0.995, shown: amount(reading), most: reading * 1.005 }
  return { unit, nominal: amount(nominal), marked: sides, school: sides, reading: read } as Gauge
}

function dial(high: number, value: number | null) {
  const limit = { name: '', value: amount(high) }
  return {
    high: limit,
    low: null,
    others: [],
    value: value == null ? null : amount(value),
  } as unknown as Dial
}

describe('the scale of a drift', () => {
  it('holds the window and the reading, with room beside them', () => {
    const { x, beyond, ticks } = driftScale(gauge(390, [0.1, 0.1], 505), [0, 100])
    expect(beyond).toBe(false)
    expect(x(351)).toBeGreaterThan(5)
    expect(x(505 * 1.005)).toBeLessThan(95)
    const [left = 0, right = 0] = x.domain()
    expect(ticks.every((t) => t.at >= left && t.at <= right)).toBe(true)
    expect(ticks.filter((t) => t.label).length).toBeGreaterThanOrEqual(4)
  })

  it('points at what lies far beyond, and keeps the window in sight', () => {
    const far = driftScale(gauge(390, [0.1, 0.1], 7000), [0, 100])
    expect(far.beyond).toBe(true)
    expect(far.x.domain()[1]).toBeLessThan(600)
  })

  it('is labelled in the unit that was given, without the crumbs of binary numbers', () => {
    const { ticks } = driftScale(gauge(24e-6, [0.2, 0.5], null, { name: 'µF', size: 1e-6 }), [0, 100])
    const labels = ticks.flatMap((t) => (t.label ? [t.label] : []))
    expect(labels).toContain('25')
    expect(labels.every((l) => l.length <= 4)).toBe(true)
  })

  it('never begins below nothing, and rules each decade alike', () => {
    for (const nominal of [0.47, 3.3, 68, 1200, 5.6e4, 9.1e6]) {
      const { x, ticks } = driftScale(gauge(nominal, [0.9, 0.2], nominal * 1.6), [0, 100])
      expect(x.domain()[0]).toBeGreaterThanOrEqual(0)
      expect(ticks.length).toBeGreaterThan(12)
      expect(ticks.length).toBeLessThan(60)
      const gaps = ticks.slice(1).map((t, i) => t.at - (ticks[i]?.at ?? 0))
      expect(Math.max(...gaps) / Math.min(...gaps)).toBeCloseTo(1, 6)
    }
  })
})

describe('a dial', () => {
  it('keeps the limit in its upper half where the reading is good', () => {
    const at = dialScale(dial(0.6, 0.1))
    expect(at(0.6)).toBeGreaterThan(0.5)
    expect(at(0.6)).toBeLessThan(0.7)
  })

  it('grows with a bad reading, up to six times the limit, and holds the needle at its end', () => {
    expect(dialScale(dial(0.6, 1.2))(1.2)).toBeCloseTo(1 / 1.1)
    const at = dialScale(dial(0.6, 60))
    expect(at(60)).toBe(1)
    expect(at(0.6)).toBeCloseTo(1 / 6.6)
  })

  it('stands ready where nothing was read', () => {
    expect(dialScale(dial(2, null))(2)).toBeCloseTo(1 / 1.6)
  })
})

describe('axes', () => {
  it('leave room round what they hold, even round a single piece', () => {
    const one = around([84], 2, [0, 100], String)
    expect(one.at(84)).toBe(50)
    expect(one.ticks.map((t) => t.label)).toContain('84')
    expect(around([], 2, [0, 100], String).ticks.length).toBeGreaterThan(0)
  })

  it('hold what lies outside at their ends', () => {
    const { at } = between([-0.2, 0.6], [10, 90], 6)
    expect([at(-9), at(9)]).toEqual([10, 90])
  })

  it('count time as a clock does', () => {
    const { at, minutes } = timeAxis(3 * 3600, [0, 100])
    expect(minutes.every((m) => m % 30 === 0)).toBe(true)
    expect([at(0), at(3 * 3600), at(1e9)]).toEqual([0, 100, 100])
  })

  it('draw a current that is nothing at the foot of its decades', () => {
    const { at, marks } = decades(-5, -2, [300, 0])
    expect(marks.map((m) => Math.log10(m)).map(Math.round)).toEqual([-5, -4, -3, -2])
    expect(at(0)).toBeCloseTo(300)
    expect(at(1e-3)).toBeCloseTo(100)
  })
})
