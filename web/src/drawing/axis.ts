import { extent, range, tickStep } from 'd3-array'
import { scaleLinear, scaleLog, scaleUtc } from 'd3-scale'
import type { Dial, Gauge } from '../api/client'

/** Where things stand in a drawing. What stands there is the server's word; here it only becomes pixels. */

/** A mark on an axis; without a label it is a short one. */
export type Tick = { at: number; label?: string }
type Ends = [number, number]

/** A reading so many times the mark is pointed at from the edge: with it on the scale no window could be seen. */
const BEYOND = 3
/** Room beside what is drawn, as a share of it. */
const ROOM = 0.15

/** Long ticks where numbers stand, some `count` of them, with four or five steps between. */
function ruled([low, high]: Ends, count: number, label: (value: number) => string): Tick[] {
  const long = tickStep(low, high, count)
  const steps = Math.round(long / 10 ** Math.floor(Math.log10(long) + 1e-9)) === 2 ? 4 : 5
  const short = long / steps
  return range(Math.ceil(low / short - 1e-9), Math.floor(high / short + 1e-9) + 1).map((n) => ({
    at: n * short,
    ...(n % steps === 0 ? { label: label(n * short) } : {}),
  }))
}

/** The scale of a part's drift: window and reading with room beside them. */
export function driftScale(gauge: Gauge, pixels: Ends) {
  const { reading, marked, school, nominal, unit } = gauge
  const beyond = (reading?.shown.value ?? 0) > BEYOND * nominal.value
  const edges = [marked.low, marked.high, school.low, school.high]
  const [low = 0, high = 1] = extent(reading && !beyond ? [...edges, reading.least, reading.most] : edges)
  const room = (high - low) * ROOM
  const x = scaleLinear([Math.max(low - room, 0), high + room], pixels)
  const label = (value: number) => String(Number((value / unit.size).toPrecision(6)))
  return { x, beyond, ticks: ruled(x.domain() as Ends, 6, label) }
}

/**
 * A dial's arc from 0 to 1, up to one and a half times the larger of limit and reading: the limit in its upper half, so
 * that a good part can be told from a better one.
 */
export function dialScale(dial: Dial) {
  const high = dial.high.value.value
  const read = Math.min(dial.value?.value ?? 0, 6 * high) * 1.1
  return scaleLinear([0, Math.max(read, 1.6 * high)], [0, 1]).clamp(true)
}

/** An axis that holds some numbers with a little room, at least `least` to each side; with some five marks. */
export function around(values: number[], least: number, pixels: Ends, label: (value: number) => string) {
  const [low = 0, high = 1] = extent(values)
  const room = Math.max((high - low) * 0.12, least)
  const at = scaleLinear([low - room, high + room], pixels)
  return { at, ticks: at.ticks(5).map((value): Tick => ({ at: value, label: label(value) })) }
}

/** An axis from one end to another, at which what lies outside is held. */
export function between(ends: Ends, pixels: Ends, count: number) {
  const at = scaleLinear(ends, pixels).clamp(true)
  return { at, ticks: at.ticks(count) }
}

/** A run's time in second; the marks in minutes as a clock has them. */
export function timeAxis(end: number, pixels: Ends) {
  const clock = scaleUtc([0, end * 1000], pixels).clamp(true)
  const minutes = clock.ticks(7).map((t) => t.getTime() / 60_000)
  return {
    at: (seconds: number) => clock(seconds * 1000),
    minutes: minutes.filter((t) => t * 60 < end * 0.95),
  }
}

/** Whole decades from `low` to `high`, each a mark. */
export function decades(low: number, high: number, pixels: Ends) {
  const at = scaleLog([10 ** low, 10 ** high], pixels).clamp(true)
  return {
    at: (value: number) => at(Math.max(value, 10 ** low)),
    marks: range(low, high + 1).map((n) => 10 ** n),
  }
}
