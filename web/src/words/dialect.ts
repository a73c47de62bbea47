import { shallowRef } from 'vue'
import type { Schemas } from '../api/client'

type Term = Pick<Schemas['Term'], 'sentence_word' | 'said_word'>

/** What the workshop says otherwise than it is written, with what was put into its words already. */
const chosen = shallowRef({
  terms: [] as { written: RegExp; term: Term }[],
  heard: new Map<string, string>(),
})

/** Chooses the words in which the page speaks; everything on it follows. */
export function speak(terms: readonly Term[]) {
  const written = (t: Term) => new RegExp(`(?<![\\w+])${t.sentence_word}(?![\\w+])`, 'gi')
  chosen.value = { terms: terms.map((term) => ({ written: written(term), term })), heard: new Map() }
}

/** A word of a vocabulary, or a sentence of the page's own, in the workshop's words. */
export function said(text: string): string {
  const { terms, heard } = chosen.value
  const known = heard.get(text)
  if (known !== undefined) return known
  const out = terms.reduce(
    (now, { written, term }) => now.replace(written, (found) => like(found, term)),
    text,
  )
  heard.set(text, out)
  return out
}

function like(found: string, { sentence_word, said_word }: Term): string {
  return found === sentence_word ? said_word : said_word.charAt(0).toUpperCase() + said_word.slice(1)
}

/** The page's own words: each is put into the workshop's when it is read. */
export function spoken<T extends object>(words: T): T {
  return new Proxy(words, {
    get(tree, key, self) {
      const there: unknown = Reflect.get(tree, key, self)
      if (typeof there === 'string') return said(there)
      if (typeof there === 'function' && !Array.isArray(tree))
        return (...given: unknown[]) => said((there as (...given: unknown[]) => string)(...given))
      return typeof there === 'object' && there !== null ? spoken(there) : there
    },
  })
}
