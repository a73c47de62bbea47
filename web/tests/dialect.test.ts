import { afterEach, describe, expect, it } from 'vitest'
import { said, speak, spoken } from '../src/words/dialect'
import { words } from '../src/words/en'

const term = (sentence_word: string, said_word: string) => ({ sentence_word, said_word })
const BRITISH = [term('plate', 'anode'), term('ground', 'earth'), term('grounded', 'earthed')]
const AMERICAN = [
  term('valve', 'tube'),
  term('valves', 'tubes'),
  term('HT', 'B+'),
  term('heater', 'filament'),
  term('heaters', 'filaments'),
]
afterEach(() => speak([]))

describe('the workshop’s own words', () => {
  it('puts whole words for whole words, with their capitals', () => {
    speak(AMERICAN)
    expect(said('Valves out: the heater chain and the HT, not the valveholder')).toBe(
      'Tubes out: the filament chain and the B+, not the valveholder',
    )
    speak(BRITISH)
    expect(said('plate load to ground; both plates of it')).toBe('anode load to earth; both plates of it')
  })
  it('reaches words in a list, in a branch, and made by a function', () => {
    speak(AMERICAN)
    const w = spoken({ a: { list: ['valve', 'lamp'] as const }, f: (n: number) => `${n} valves` })
    expect([...w.a.list]).toEqual(['tube', 'lamp'])
    expect(w.a.list.map((x) => x.length)).toEqual([4, 4])
    expect(w.f(2)).toBe('2 tubes')
  })
  it.each([
    ['British', BRITISH, /\b(plate|ground)\b/i],
    ['American', AMERICAN, /\b(valves?|HT|heaters?)\b/i],
  ])('leaves no other word on a page of the %s trade', (_, terms, other) => {
    speak(terms)
    const all = [...leaves(words)]
    expect(all.length).toBeGreaterThan(600)
    expect(all.filter((w) => other.test(w))).toEqual([])
    expect(all.filter((w) => /\ba (anode|earth|HT)\b|\ban (plate|ground|tube|B\+)/i.test(w))).toEqual([])
  })
})

function* leaves(tree: object): Generator<string> {
  for (const value of Object.values(tree) as unknown[]) {
    if (typeof value === 'string') yield value
    else if (typeof value === 'object' && value !== null) yield* leaves(value)
  }
}
