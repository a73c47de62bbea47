import type { Strip } from '@/api/client'

/** An amount as the server writes it. */
export const amount = (value: number, unit = 'kΩ') => ({
  value,
  unit,
  number: String(value),
  text: `${value} ${unit}`,
})
/** A part as the tray shows it. */
export const strip = (name: string, more: object = {}): Strip =>
  ({
    id: `id-${name}`,
    name,
    kind: 'resistor',
    family: null,
    position: null,
    place: '',
    note: '',
    group: [],
    looks: [],
    isolate: 'lift one end',
    suspect_of: null,
    sheet: amount(47),
    marked: amount(47),
    winding: null,
    reads: amount(51),
    beyond: false,
    scheme: 'bands',
    code: null,
    can: false,
    print: [],
    bands: ['yellow', 'violet', 'orange'],
    says: 'keep',
    verdict: 'keep',
    to_measure: false,
    cause_question: null,
    value_question: null,
    urgency: 1,
    status: 'judged',
    step: 'judge',
    steps: ['read', 'measure', 'judge', 'fit', 'prove'],
    done: [],
    version: 3,
    order: name,
    ...more,
  }) as unknown as Strip
