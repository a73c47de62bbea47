import {
  api,
  told,
  type Amount,
  type Quantity,
  type RectifierAnswer,
  type Schemas,
  type Shown,
} from '../../api/client'
import { words } from '../../words/en'

/** A field of a sheet; from a part in hand it is filled with what is known of its circuit. */
export interface FieldSpec {
  name: string
  label: string
  quantity: Quantity
  fact?: string
  /** What was said at intake, where no fact says it. */
  intake?: 'line' | 'watts' | 'sheet_line'
  /** What of the set's chain it is. */
  chain?: 'ballast' | 'ballast_high'
  /** Filled with the part's own value or reading, where it is of that kind. */
  own?: 'capacitor' | 'coil' | 'coil read' | 'resistor'
  /** The ripple's frequency, as it follows from what is known of the set. */
  ripple?: boolean
}
/** What is typed in words and read by the sum itself. */
export interface TextSpec {
  name: string
  label: string
  /** Filled with the set's. */
  chain?: 'barretter'
}
/** One of several. */
export interface PickSpec {
  name: string
  label: string
  options: Record<string, string>
  /** Followed by the rectifiers that the server has. */
  rectifiers?: boolean
}
/** Rows of a table that is filled in. */
export interface RowSpec {
  fields: FieldSpec[]
  named: boolean
  flag?: string
  /** How many rows stand there at first. */
  first: number
  /** Filled with the set's heater chain. */
  chain?: boolean
}
export type Values = Record<string, Amount | undefined>
export interface RowValues {
  name: string
  flag: boolean
  values: Values
}
export interface Result {
  shown: Shown[]
  /** A table, its first row the heading; a row that stands out. */
  table?: { head: string[]; rows: { cells: string[]; tone?: 'keep' | 'good' | 'watch' | 'replace' }[] }
  wave?: RectifierAnswer['waveform']
  /** What is wrong with it, each by itself. */
  warnings?: string[]
  note?: { text: string; tone: 'keep' | 'watch' | 'replace' }
}
export type SheetName = keyof typeof words.supply.sheets
export interface Sheet {
  name: SheetName
  fields: FieldSpec[]
  picks?: PickSpec[]
  texts?: TextSpec[]
  rows?: RowSpec
  /** Fields without which nothing can be asked. */
  needs: string[]
  /** Null where something is still missing. */
  ask: (v: Values, picked: Record<string, string>, rows: RowValues[]) => Promise<Result | null>
}

const n = (v: Values, name: string): number => v[name]?.value ?? 0
const line: FieldSpec = { name: 'line', label: 'line', quantity: 'voltage', fact: 'line', intake: 'line' }
const hertz: FieldSpec = {
  name: 'frequency',
  label: 'line frequency',
  quantity: 'frequency',
  fact: 'frequency',
}
const capacitor: FieldSpec = {
  name: 'capacitance',
  label: 'capacitor',
  quantity: 'capacitance',
  own: 'capacitor',
}

export const SHEETS: Sheet[] = [
  {
    name: 'series',
    fields: [
      { name: 'supply', label: 'supply', quantity: 'voltage', fact: 'rail' },
      { name: 'load', label: 'the load wants', quantity: 'voltage' },
      { name: 'current', label: 'it draws', quantity: 'current' },
      { name: 'drop', label: 'or volts across the old resistor', quantity: 'voltage' },
      { name: 'through', label: 'and its ohms', quantity: 'resistance', own: 'resistor' },
    ],
    needs: ['supply', 'load'],
    async ask(v) {
      // One of the two ways to the load's current is enough.
      if (!v.current && !(v.drop && v.through)) return null
      const body = {
        supply: n(v, 'supply'),
        load: n(v, 'load'),
        current: v.current?.value,
        drop: v.drop?.value,
        through: v.through?.value,
      }
      const a = await told(api.POST('/api/supply/series', { body }))
      const shown = [
        { label: 'in series', text: a.text },
        { label: 'rated', text: a.rating.text },
      ]
      if (a.preferred) shown.push({ label: words.supply.bought, text: a.preferred.text })
      return { shown }
    },
  },
  {
    name: 'rectifier',
    picks: [
      { name: 'circuit', label: 'circuit', options: words.supply.circuits },
      {
        name: 'kind',
        label: 'rectifier',
        options: { silicon: 'silicon', selenium: 'selenium', valve: 'valve' },
      },
      { name: 'diode', label: 'diode', options: words.supply.noDiode, rectifiers: true },
    ],
    fields: [
      { name: 'line', label: 'volts AC at the rectifier', quantity: 'voltage', fact: 'secondary' },
      hertz,
      { name: 'source', label: 'winding and line, ohms', quantity: 'resistance', fact: 'charging_path' },
      { name: 'series', label: 'series resistor', quantity: 'resistance' },
      capacitor,
      { name: 'current', label: 'load current', quantity: 'current', fact: 'load_current' },
      { name: 'target', label: 'the rail should be', quantity: 'voltage', fact: 'rail' },
      { name: 'drop', label: 'drop, if known', quantity: 'voltage' },
      { name: 'resistance', label: 'its ohms, if known', quantity: 'resistance' },
    ],
    needs: ['line', 'frequency', 'source', 'capacitance', 'current'],
    async ask(v, picked) {
      const body: Schemas['RectifierQuestion'] = {
        circuit: (picked.circuit ?? 'half-wave') as Schemas['RectifierCircuit'],
        line: n(v, 'line'),
        frequency: n(v, 'frequency'),
        rectifier: {
          kind: (picked.kind ?? 'silicon') as Schemas['RectifierKind'],
          drop: v.drop?.value,
          resistance: v.resistance?.value,
          type: picked.diode === 'none' ? null : picked.diode,
        },
        source_resistance: n(v, 'source'),
        series: n(v, 'series'),
        capacitance: n(v, 'capacitance'),
        load: { current: n(v, 'current') },
        target: v.target?.value,
      }
      const a = await told(api.POST('/api/supply/rectifier', { body }))
      const result: Result = { shown: a.shown, wave: a.waveform, warnings: a.warnings }
      if (a.for_target) {
        const bought = a.for_target.preferred
          ? `; ${words.supply.bought}: ${a.for_target.preferred.text}`
          : ''
        result.note = { text: `${a.for_target.text} ${words.supply.forTarget}${bought}`, tone: 'keep' }
      } else if (v.target) result.note = { text: words.supply.noTarget, tone: 'watch' }
      return result
    },
  },
  {
    name: 'field-coil',
    fields: [
      { name: 'wanted', label: 'ohms by the sheet', quantity: 'resistance', own: 'coil' },
      { name: 'present', label: 'the coil that is there', quantity: 'resistance', own: 'coil read' },
      { name: 'current', label: 'current', quantity: 'current', fact: 'load_current' },
      { name: 'drop', label: 'or volts across what is missing', quantity: 'voltage' },
    ],
    needs: ['wanted'],
    async ask(v) {
      const body = {
        wanted: n(v, 'wanted'),
        present: v.present?.value,
        current: v.current?.value,
        drop: v.drop?.value,
      }
      const a = await told(api.POST('/api/supply/field-coil', { body }))
      return { shown: a.shown }
    },
  },
  {
    name: 'ripple',
    fields: [
      { name: 'ripple', label: 'ripple ahead of it', quantity: 'voltage' },
      { name: 'frequency', label: 'of the ripple', quantity: 'frequency', ripple: true },
    ],
    rows: {
      named: false,
      fields: [
        { name: 'resistor', label: 'resistor', quantity: 'resistance' },
        { name: 'choke', label: 'or choke', quantity: 'inductance' },
        { name: 'capacitance', label: 'capacitor', quantity: 'capacitance' },
      ],
      first: 1,
    },
    needs: ['ripple', 'frequency'],
    async ask(v, _, rows) {
      const sections = rows
        .filter((r) => r.values.capacitance && (r.values.choke ?? r.values.resistor))
        .map((r) => {
          const capacitance = n(r.values, 'capacitance')
          return r.values.choke
            ? { choke: r.values.choke.value, capacitance }
            : { resistor: n(r.values, 'resistor'), capacitance }
        })
      const body = { ripple: n(v, 'ripple'), frequency: n(v, 'frequency'), sections }
      const a = await told(api.POST('/api/supply/ripple', { body }))
      return { shown: a.shown }
    },
  },
  {
    name: 'chart',
    fields: [
      { name: 'sheet_line', label: 'line by the sheet', quantity: 'voltage', intake: 'sheet_line' },
      {
        name: 'line',
        label: 'line now, or behind the variable transformer',
        quantity: 'voltage',
        fact: 'line',
      },
      { name: 'half_a', label: 'secondary, one half', quantity: 'voltage' },
      { name: 'half_b', label: 'the other half', quantity: 'voltage' },
    ],
    rows: {
      named: true,
      flag: 'heater',
      fields: [
        { name: 'volts', label: 'by the sheet', quantity: 'voltage' },
        { name: 'measured', label: 'measured', quantity: 'voltage' },
      ],
      first: 3,
    },
    needs: ['sheet_line', 'line'],
    async ask(v, _, rows) {
      const points = rows
        .filter((r) => r.values.volts)
        .map((r) => ({
          name: r.name,
          volts: n(r.values, 'volts'),
          measured: r.values.measured?.value,
          heater: r.flag,
        }))
      const body = {
        sheet_line: n(v, 'sheet_line'),
        line: n(v, 'line'),
        points,
        half_a: v.half_a?.value,
        half_b: v.half_b?.value,
      }
      const a = await told(api.POST('/api/supply/chart', { body }))
      return {
        shown: a.halves_text ? [{ label: 'halves', text: a.halves_text }] : [],
        table: {
          head: ['', 'should have', 'off'],
          rows: a.points.map((p) => ({
            cells: [p.name, p.expected_text, p.deviation_text ?? ''],
            tone: p.heater_off ? ('replace' as const) : undefined,
          })),
        },
      }
    },
  },
  {
    name: 'heaters',
    fields: [
      line,
      { name: 'ballast', label: 'ballast that is there', quantity: 'resistance', chain: 'ballast' },
      { name: 'ballast_high', label: 'its other position', quantity: 'resistance', chain: 'ballast_high' },
    ],
    texts: [{ name: 'barretter', label: 'or its barretter', chain: 'barretter' }],
    rows: {
      named: true,
      flag: 'lamp',
      chain: true,
      fields: [
        { name: 'volts', label: 'volts', quantity: 'voltage' },
        { name: 'current', label: 'current', quantity: 'current' },
      ],
      first: 3,
    },
    needs: ['line'],
    async ask(v, picked, rows) {
      const members = rows
        .filter((r) => r.values.volts && r.values.current)
        .map((r) => ({
          name: r.name,
          volts: n(r.values, 'volts'),
          current: n(r.values, 'current'),
          lamp: r.flag,
        }))
      if (!members.length) return { shown: [] }
      const ballasts = [v.ballast, v.ballast_high].flatMap((b) => (b ? [b.value] : []))
      const body = { line: n(v, 'line'), members, ballasts, barretter: picked.barretter || null }
      const a = await told(api.POST('/api/supply/heaters', { body }))
      return {
        shown: a.shown,
        table: {
          head: ['', ''],
          rows: [
            ...a.settled.map((s) => ({
              cells: [s.ballast, s.text],
              tone: s.good ? ('good' as const) : ('replace' as const),
            })),
            ...a.members.map((m) => ({
              cells: [m.name, m.text],
              tone: m.matches ? undefined : ('replace' as const),
            })),
          ],
        },
      }
    },
  },
  {
    name: 'discharge',
    fields: [
      capacitor,
      { name: 'voltage', label: 'charged to', quantity: 'voltage', fact: 'voltage' },
      { name: 'resistor', label: 'through', quantity: 'resistance', own: 'resistor' },
      { name: 'safe', label: 'safe below, if not 5 V', quantity: 'voltage' },
    ],
    needs: ['capacitance', 'voltage', 'resistor'],
    async ask(v) {
      const body = {
        capacitance: n(v, 'capacitance'),
        voltage: n(v, 'voltage'),
        resistor: n(v, 'resistor'),
        safe: v.safe?.value,
      }
      const a = await told(api.POST('/api/supply/discharge', { body }))
      return {
        shown: a.shown,
        note: {
          text: [...a.cautions, 'A resistor can be open: the meter has the last word.'].join(' '),
          tone: a.danger === 'kills' ? 'replace' : 'watch',
        },
      }
    },
  },
  {
    name: 'touch',
    fields: [capacitor, line, hertz],
    needs: ['capacitance', 'line', 'frequency'],
    async ask(v) {
      const body = { capacitance: n(v, 'capacitance'), line: n(v, 'line'), frequency: n(v, 'frequency') }
      const a = await told(api.POST('/api/supply/touch', { body }))
      return {
        shown: a.shown,
        note: {
          text: 'Only parts of class Y; local electrical codes and licensed practice come first.',
          tone: a.within ? 'watch' : 'replace',
        },
      }
    },
  },
  {
    name: 'limiter',
    fields: [line, { name: 'watts', label: 'the set draws', quantity: 'power', intake: 'watts' }],
    needs: ['line', 'watts'],
    async ask(v) {
      const a = await told(
        api.POST('/api/supply/limiter', { body: { line: n(v, 'line'), watts: n(v, 'watts') } }),
      )
      return {
        shown: [],
        table: {
          head: [words.supply.bulb, words.supply.sees, words.supply.short],
          rows: a.bulbs.map((b) => ({
            cells: b.shown,
            tone: b.bulb === a.proposed ? ('keep' as const) : undefined,
          })),
        },
      }
    },
  },
]
