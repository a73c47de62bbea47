/** A network as it is typed: `180 ∥ (3k3 + 47)`. What stands between the signs is read by the server. */
export type Sketch = string | { series: Sketch[] } | { parallel: Sketch[] }

/** The network of a line; null while it is not whole. Side by side binds closer than one after the other. */
export function parse(line: string): Sketch | null {
  const signs =
    line
      .match(/[()+∥|,]|[^()+∥|,]+/g)
      ?.map((s) => s.trim())
      .filter(Boolean) ?? []
  let at = 0
  function one(): Sketch | null {
    const sign = signs[at]
    if (sign === undefined) return null
    if (sign === '(') {
      at += 1
      const inside = chain()
      if (signs[at] !== ')') return null
      at += 1
      return inside
    }
    if (/^[)+∥|,]$/.test(sign)) return null
    at += 1
    return sign
  }
  function several(next: () => Sketch | null, sign: RegExp): Sketch[] | null {
    const all: Sketch[] = []
    for (;;) {
      const part = next()
      if (part === null) return null
      all.push(part)
      if (!sign.test(signs[at] ?? '')) return all
      at += 1
    }
  }
  function bundle(): Sketch | null {
    const all = several(one, /^[∥|]$/)
    return all && (all.length > 1 ? { parallel: all } : (all[0] ?? null))
  }
  function chain(): Sketch | null {
    const all = several(bundle, /^[+,]$/)
    return all && (all.length > 1 ? { series: all } : (all[0] ?? null))
  }
  const whole = chain()
  return at === signs.length ? whole : null
}

/** The parts of a network in their order. */
export function leaves(sketch: Sketch): string[] {
  if (typeof sketch === 'string') return [sketch]
  return ('series' in sketch ? sketch.series : sketch.parallel).flatMap(leaves)
}
