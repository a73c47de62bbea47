import { describe, expect, it, test, vi } from 'vitest'
import type { Dial, DrawnFeed, Gauge, Reading, Sampled, Tree } from '@/api/client'
import DriftGauge from '@/drawing/DriftGauge.vue'
import LimitDial from '@/drawing/LimitDial.vue'
import MarkedPart from '@/drawing/MarkedPart.vue'
import NetworkDrawing from '@/drawing/NetworkDrawing.vue'
import ReadingTrace from '@/drawing/ReadingTrace.vue'
import ReformChart from '@/drawing/ReformChart.vue'
import SocketDrawing from '@/drawing/SocketDrawing.vue'
import { layout } from '@/drawing/feedLayout'
import { height, shapeOfReading, spots, type Shape } from '@/drawing/shapes'
import { words } from '@/words/en'
import { dice, drawn } from './drawn'

const amount = (value: number, unit = 'Ω') => ({
  value,
  unit,
  number: String(value),
  text: `${value} ${unit}`,
})
const window = (low: number, high: number, text: string) => ({
  low,
  high,
  text,
  low_text: `−${text}`,
  high_text: `+${text}`,
})

function gauge(reading: number | null, more: object = {}): Gauge {
  return {
    nominal: amount(1000),
    marked: window(900, 1100, '10 %'),
    school: window(900, 1100, '10 %'),
    unit: { name: 'Ω', in_base: 1 },
    reading:
      reading === null ? null : { shown: amount(reading), least: reading * 0.99, most: reading * 1.01 },
    ...more,
  } as unknown as Gauge
}
const across = (path: string | null) => Number(/^M([\d.]+)/.exec(path ?? '')?.[1])

describe('the gauge of a value', () => {
  const of = (g: Gauge) => drawn(DriftGauge, { gauge: g, against: 'marked' })
  it.each([700, 850, 905, 1000, 1099, 1140, 1500])(
    'a reading of %d stands on its side of the limits',
    (value) => {
      const g = of(gauge(value))
      const low = g.number('.window', 'x')
      const high = low + g.number('.window', 'width')
      const at = across(g.one('.reading').getAttribute('d'))
      expect(at > low).toBe(value > 900)
      expect(at < high).toBe(value < 1100)
      expect(across(g.one('.nominal').getAttribute('d'))).toBeGreaterThan(low)
      const band = g.number('.band', 'x')
      expect(band).toBeLessThan(at)
      expect(band + g.number('.band', 'width')).toBeGreaterThan(at)
      expect(g.one('svg').getAttribute('aria-label')).toBe(`1000 Ω, limits 10 %, reading ${value} Ω`)
    },
  )
  it('far beyond, an arrow points to where it would be', () => {
    const g = of(gauge(90_000))
    expect(g.all('.arrow')).toHaveLength(1)
    expect(g.all('.reading')).toHaveLength(0)
    expect(g.text('.shown')).toBe('90000 Ω')
  })
  it('names the edges of the school only where they are its own', () => {
    expect(of(gauge(1000)).all('.own')).toHaveLength(0)
    const own = of(gauge(1000, { school: window(800, 1200, '20 %') }))
    expect(own.all('.own').map((e) => e.textContent)).toEqual(['−20 %', '+20 %'])
    expect(of(gauge(null)).all('.shown')).toHaveLength(0)
  })
  it('two labels beside each other turn away from each other', () => {
    const near = of(gauge(1010))
    expect(near.one('.shown').classList.contains('start')).toBe(true)
    expect(near.one('.label').classList.contains('end')).toBe(true)
  })
})

describe('the dial of a limit', () => {
  const dial = (value: number | null, more: object = {}): Dial =>
    ({
      called: 'leakage',
      source: 'x',
      quantity: 'leakage_current',
      low: null,
      high: { name: 'limit', value: amount(1.2, 'mA') },
      others: [{ name: 'bench', value: amount(0.6, 'mA') }],
      value: value === null ? null : amount(value, 'mA'),
      verdict: value === null ? null : 'keep',
      ...more,
    }) as unknown as Dial
  /** How far round the dial a line ends, from its left end on. */
  const end = (line: Element) => {
    const [x = NaN, y = NaN] = (/L(\S+) (\S+)/.exec(line.getAttribute('d') ?? '') ?? []).slice(1).map(Number)
    return Math.PI - Math.atan2(66 - y, x - 70)
  }
  it('the needle goes to the right as the value rises', () => {
    const needle = (v: number) => end(drawn(LimitDial, { dial: dial(v) }).one('.needle'))
    const at = [0.1, 0.5, 1.1, 1.3, 2, 50].map(needle)
    expect([...at].sort((a, b) => a - b)).toEqual(at)
  })
  it('stands right of the limit exactly when it is above it', () => {
    for (const v of [0.3, 1.1, 1.19, 1.21, 2]) {
      const d = drawn(LimitDial, { dial: dial(v) })
      expect(end(d.one('.needle')) > end(d.one('.limit'))).toBe(v > 1.2)
    }
  })
  it('says what was not read, and draws no needle for it', () => {
    const d = drawn(LimitDial, { dial: dial(null) })
    expect(d.all('.needle')).toHaveLength(0)
    expect(d.one('svg').getAttribute('aria-label')).toContain(words.judge.notRead)
    expect(d.text('title')).toBe('bench 0.6 mA')
  })
})

const SHAPES = [
  ['bands', 3, 6],
  ['body-end-dot', 3, 4],
  ['mica-six-dot', 6, 6],
  ['mica-five-dot', 5, 5],
  ['mica-three-dot', 3, 3],
  ['tubular-ceramic', 3, 6],
  ['tubular-paper', 4, 6],
  ['film-stripes', 3, 5],
  ['tantalum', 3, 4],
  ['choke-bands', 3, 5],
  ['diode-bands', 2, 4],
] as const

describe('where colours sit on a part', () => {
  it.each(SHAPES)(
    '%s: each has its place inside of the drawing, and none covers another',
    (shape, least, most) => {
      for (let n = least as number; n <= most; n++) {
        const all = spots(shape, n)
        expect(all).toHaveLength(n)
        const body = shape === 'body-end-dot' ? all.filter((_, i) => i !== 0) : all
        for (const s of all) {
          expect(s.x >= 0 && s.x + s.w <= 104 && s.y >= 0 && s.y + s.h <= height(shape, true)).toBe(true)
          expect(s.lx >= 0 && s.lx <= 104 && s.ly <= height(shape, true)).toBe(true)
        }
        for (const [i, a] of body.entries())
          for (const b of body.slice(i + 1))
            expect(
              a.x + a.w <= b.x + 0.01 ||
                b.x + b.w <= a.x + 0.01 ||
                a.y + a.h <= b.y + 0.01 ||
                b.y + b.h <= a.y + 0.01,
            ).toBe(true)
      }
    },
  )
  it.each([
    ['resistor', 'chip code', null, false, 'chip'],
    ['resistor', 'digit code', null, false, 'bands'],
    ['capacitor', null, 'electrolytic', false, 'can'],
    ['capacitor', null, null, true, 'can'],
    ['capacitor', null, 'silver mica', false, 'mica-three-dot'],
    ['capacitor', 'digit code', null, false, 'disc'],
    ['capacitor', null, 'wax paper', false, 'film'],
    ['lamp', null, null, false, 'lamp'],
    ['integrated circuit', null, null, false, 'circuit'],
  ] as const)('%s, %s, %s is drawn as a body of its own', (kind, code, family, sections, shape) => {
    expect(shapeOfReading(kind, code, family, sections)).toBe(shape)
  })
})

describe('the drawn part', () => {
  const part = (more: object) => drawn(MarkedPart, { shape: 'bands', colours: [], ...more })
  it('places are pressed by hand and by key', () => {
    const choose = vi.fn()
    const p = part({
      colours: ['red', 'violet'],
      places: 4,
      large: true,
      chosen: 1,
      names: ['digit', 'digit'],
      onChoose: choose,
    })
    const places = p.all('[role=button]')
    expect(places.map((e) => e.getAttribute('aria-label'))).toEqual([
      'place 1, digit: red',
      'place 2, digit: violet',
      'place 3: nothing yet',
      'place 4: nothing yet',
    ])
    places[2]?.dispatchEvent(new MouseEvent('click', { bubbles: true }))
    places[3]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
    places[3]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'x', bubbles: true }))
    expect(choose.mock.calls).toEqual([[2], [3]])
    expect(places[1]?.getAttribute('aria-pressed')).toBe('true')
  })
  it('on the tray it is a picture, and print shrinks to its body', () => {
    const p = part({ shape: 'can', print: '16µF\n350 V DC\n16µF\n350 V DC\nnever seen' })
    expect(p.one('svg').getAttribute('role')).toBe('img')
    expect(p.all('.print')).toHaveLength(4)
    expect(Number(p.one('.print').getAttribute('font-size'))).toBeLessThan(5)
    expect(p.all('[tabindex]')).toHaveLength(0)
    expect(part({ colours: ['red', 'red', 'red'], family: 'wirewound' }).all('.band')).toHaveLength(0)
  })
  it.each([
    ...SHAPES.map(([s]) => s),
    'disc',
    'can',
    'chip',
    'film',
    'lamp',
    'coil',
    'transistor',
    'circuit',
  ] as Shape[])('%s has a body', (shape) => {
    const p = part({ shape, colours: ['red', 'green', 'blue'] satisfies string[] as never })
    expect(p.all('rect, path, circle').length - p.all('.band rect').length).toBeGreaterThan(0)
  })
})

/** A network of `n` parts, as chance has it. */
function network(n: number, roll: (below: number) => number): Tree {
  if (n === 1) return { value: 1 + roll(99) } as unknown as Tree
  const parts: Tree[] = []
  for (let rest = n; rest > 0;) {
    const own = Math.min(rest, 1 + roll(Math.max(n - 1, 1)))
    const size = parts.length === 0 && own === n ? n - 1 : own
    parts.push(network(size, roll))
    rest -= size
  }
  return (roll(2) ? { series: parts } : { parallel: parts }) as unknown as Tree
}

test('whatever the network, each part is drawn once, inside of the picture, and none on another', () => {
  const roll = dice(7)
  for (let i = 0; i < 60; i++) {
    const n = 1 + roll(7)
    const labels = Array.from({ length: n }, (_, k) => [`${k}`])
    const d = drawn(NetworkDrawing, {
      tree: network(n, roll),
      kind: i % 2 ? 'resistor' : 'capacitor',
      labels,
    })
    const [, , width, tall] = (d.one('svg').getAttribute('viewBox') ?? '').split(' ').map(Number)
    const at = d
      .all('g')
      .map((g) => (/\((\S+) (\S+)\)/.exec(g.getAttribute('transform') ?? '') ?? []).slice(1).map(Number))
    expect(d.all('.value').map((v) => v.textContent)).toEqual(labels.map((l) => l[0]))
    for (const [k, [x = NaN, y = NaN]] of at.entries()) {
      expect(x >= 0 && x + 116 <= (width ?? 0) && y >= 0 && y <= (tall ?? 0)).toBe(true)
      for (const [u = NaN, v = NaN] of at.slice(k + 1))
        expect(Math.abs(x - u) >= 116 || Math.abs(y - v) >= 60).toBe(true)
    }
  }
})

test('whatever hangs on a rail, each part has its place and each node its own', () => {
  const roll = dice(11)
  for (let i = 0; i < 80; i++) {
    const nodes = ['rail', ...Array.from({ length: 1 + roll(4) }, (_, k) => `n${k}`)]
    const parts = nodes
      .slice(1)
      .flatMap((node, k) => [
        { ref: `R${k}`, kind: 'resistor', a: nodes[roll(k + 1)], b: node },
        ...Array.from({ length: roll(3) }, (_, c) =>
          c
            ? { ref: `C${k}${c}`, kind: 'capacitor', a: node, b: 'ground' }
            : { ref: `V${k}`, kind: 'load', a: 'ground', b: node },
        ),
      ])
    const l = layout({ parts } as unknown as DrawnFeed)
    expect([...l.series, ...l.shunts].map((p) => p.part.ref).sort()).toEqual(parts.map((p) => p.ref).sort())
    expect(new Set(l.nodes.map((n) => n.node))).toEqual(new Set(nodes))
    expect(new Set(l.nodes.map((n) => `${n.x},${n.y}`)).size).toBe(nodes.length)
    expect(new Set(l.shunts.map((s) => `${s.x},${s.y}`)).size).toBe(l.shunts.length)
    for (const s of l.shunts) {
      expect(s.turned).toBe(s.part.a === 'ground')
      expect(s.x <= l.width && s.y + s.length <= l.height).toBe(true)
    }
    for (const s of l.series) expect(s.x + s.length <= l.width).toBe(true)
  }
})

describe('the chart of a reforming run', () => {
  const sample = (at_s: number, volts: number, amperes: number, ordered: number | null = 100): Sampled =>
    ({ at_s, volts, amperes, ordered }) as unknown as Sampled
  const run = [
    sample(0, 0, 2e-3),
    sample(600, 120, 1.5e-3),
    sample(1200, 180, 4e-4),
    sample(1300, 60, -2e-3, null),
  ]
  const chart = (more: object = {}) =>
    drawn(ReformChart, { samples: run, aim: 250, limit: 1e-3, peak: 5e-3, expected: 3600, ...more })
  const points = (line: Element) =>
    (line.getAttribute('points') ?? '').split(' ').map((p) => p.split(',').map(Number))
  it('volts rise as they rise, and what flows back is no leak', () => {
    const c = chart()
    const volts = points(c.one('.volts'))
    expect(volts).toHaveLength(4)
    expect((volts[2]?.[1] ?? 0) < (volts[1]?.[1] ?? 0)).toBe(true)
    expect(points(c.one('.current'))).toHaveLength(3)
    for (const [x = NaN, y = NaN] of volts) expect(x >= 46 && x <= 808 && y >= 22 && y <= 346).toBe(true)
  })
  it('the limit lies between what is above and what is below it', () => {
    const c = chart({ limitText: '1 mA' })
    const limit = Number(/M\S+ ([\d.]+)/.exec(c.one('.limit').getAttribute('d') ?? '')?.[1])
    const [first, , third] = points(c.one('.current'))
    expect((first?.[1] ?? 0) < limit && limit < (third?.[1] ?? 0)).toBe(true)
    expect(c.text('.good')).toBe(`${words.reform.goodBelow} 1 mA`)
  })
  it('now is marked while it runs, and what is foreseen is a band', () => {
    expect(chart().all('.now')).toHaveLength(0)
    const band = [0, 1, 2].map((n) => ({ at_s: 1300 + n * 600, least: 3e-4, most: 6e-4 }))
    const c = chart({ running: true, band })
    expect(c.all('.now')).toHaveLength(1)
    expect(c.one('.band').getAttribute('d')).toMatch(/^M[\d.,L]+Z$/)
    expect(chart({ earlier: [run, run] }).all('.old')).toHaveLength(4)
  })
})

test('readings in their order: what was voided or read before is left out, and one alone is no line', () => {
  const r = (value: number, more: object = {}) =>
    ({ quantity: 'resistance', measured: amount(value), state: 'lifted', ...more }) as unknown as Reading
  const trace = (readings: Reading[]) =>
    drawn(ReadingTrace, { readings, gauge: gauge(1000), quantity: 'resistance' })
  expect(
    trace([r(950), r(960, { voided: 'slip' }), r(970, { before_fitting: true })]).all('svg'),
  ).toHaveLength(0)
  const two = trace([r(950, { hot: true }), r(970), r(3, { quantity: 'inductance' })])
  expect(two.one('svg').getAttribute('aria-label')).toBe('readings in order: 950 Ω, 970 Ω')
  expect(two.all('circle').map((c) => c.classList.contains('hot'))).toEqual([true, false])
})

test('a socket is pressed at its pins, which say their part and what was read', () => {
  const pick = vi.fn()
  const pins = Array.from({ length: 9 }, (_, i) => ({
    number: i + 1,
    x: Math.cos(i),
    y: Math.sin(i),
    large: false,
  }))
  const s = drawn(SocketDrawing, {
    base: { base: 'B9A', key: 'gap', pins },
    valve: { type: 'EF80', pins: [{ number: 2, code: 'g1' }] },
    selected: 2,
    volts: { 7: '182 V' },
    label: 'EF80, from below',
    onPick: pick,
  })
  expect(s.all('.pin')).toHaveLength(9)
  expect(s.all('.used')).toHaveLength(1)
  expect(s.text('.volts')).toBe('182 V')
  s.all('.pin')[6]?.dispatchEvent(new MouseEvent('click', { bubbles: true }))
  expect(pick).toHaveBeenCalledWith(7)
})
