import type { Choice } from '../../api/client'

/** The most that a description may have. */
const LONGEST = 200

/** What is recorded of a choice that goes in. */
export const goesIn = (c: Choice) => ({
  ...c.entry,
  description: c.description.slice(0, LONGEST),
  family: c.family,
  kind: c.kind,
  pieces: c.pieces.map((p) => ({ lot: p.lot, description: p.description })),
})

/** The drawers that are opened for a choice, each once. */
export function drawersOf(c: Choice) {
  const all = new Map<string, { place: string; count: number; taken: number }>()
  for (const p of c.pieces) {
    if (!p.lot) continue
    const there = all.get(p.lot) ?? { place: p.place ?? '', count: p.count ?? 0, taken: 0 }
    there.taken += 1
    all.set(p.lot, there)
  }
  return [...all.values()]
}
