import type { Strip, Scheme } from '../api/client'

/** How a part is drawn: one of the colour codes' bodies, or one that carries print. */
export type Shape =
  | Scheme
  | 'disc'
  | 'can'
  | 'chip'
  | 'film'
  | 'lamp'
  | 'coil'
  | 'transistor'
  | 'circuit'
  | 'valve'
  | 'fuse'
  | 'switch'
  | 'loudspeaker'

/** Where a colour sits on the drawing, and where the word for it stands. */
export interface Spot {
  x: number
  y: number
  w: number
  h: number
  /** Corner radius; half the height makes a dot. */
  r: number
  lx: number
  ly: number
  /** Words beside upright parts begin at their left end. */
  beside?: boolean
}

/** The height of the drawing; all are 104 wide. */
export function height(shape: Shape, large: boolean): number {
  switch (shape) {
    case 'mica-six-dot':
    case 'mica-five-dot':
      return large ? 42 : 34
    case 'film-stripes':
    case 'tantalum':
      return large ? 40 : 36
    default:
      return large ? 34 : 26
  }
}

/** How wide print may run on the body; 0 where there is no room for it. */
export function printWidth(shape: Shape): number {
  switch (shape) {
    case 'disc':
      return 30
    case 'chip':
      return 38
    case 'can':
      return 56
    case 'transistor':
      return 50
    case 'circuit':
      return 62
    case 'film':
      return 68
    case 'valve':
      return 50
    case 'fuse':
    case 'lamp':
    case 'coil':
    case 'switch':
    case 'loudspeaker':
      return 0
    default:
      return 56
  }
}

function row(n: number, x: number, w: number, y: number, h: number, band: number, apart: boolean): Spot[] {
  const step = Math.min(11.5, (w - 22) / Math.max(n, 1))
  return Array.from({ length: n }, (_, i) => {
    const at = apart && i === n - 1 && n > 3 ? x + w - 13 : x + 7 + i * step
    // Five words and more stand in two lines, so that none runs into the next.
    const ly = n < 5 ? 31.5 : i % 2 ? 33 : 28.8
    return { x: at, y, w: band, h, r: 0, lx: at + band / 2, ly }
  })
}

function dot(x: number, y: number, r: number, ly: number): Spot {
  return { x: x - r, y: y - r, w: 2 * r, h: 2 * r, r, lx: x, ly }
}

/** The spots of `n` colours, in the order of the code. */
export function spots(shape: Shape, n: number): Spot[] {
  switch (shape) {
    case 'bands':
      return row(n, 20, 64, 4, 18, 6.4, true)
    case 'choke-bands':
      return row(n, 18, 68, 3, 20, 6.4, true)
    case 'diode-bands':
      return row(n, 24, 60, 5, 16, 5.4, false)
    case 'tubular-paper':
      return row(n, 10, 84, 2, 22, 7, false)
    case 'tubular-ceramic':
      return row(n, 16, 72, 6, 14, 6, false)
    case 'body-end-dot':
      return [
        { x: 30, y: 4, w: 44, h: 18, r: 0, lx: 39, ly: 31.5 },
        { x: 18, y: 2, w: 12, h: 22, r: 2.5, lx: 24, ly: 31.5 },
        dot(56, 13, 5, 31.5),
        { x: 74, y: 2, w: 12, h: 22, r: 2.5, lx: 80, ly: 31.5 },
      ].slice(0, n)
    case 'mica-six-dot':
      // the upper row from left to right, the lower one back again, as the arrow turns
      return [
        dot(36, 8, 4.2, 17.4),
        dot(52, 8, 4.2, 17.4),
        dot(68, 8, 4.2, 17.4),
        dot(68, 25, 4.2, 34.4),
        dot(52, 25, 4.2, 34.4),
        dot(36, 25, 4.2, 34.4),
      ].slice(0, n)
    case 'mica-five-dot':
      return [
        dot(42, 8, 4.2, 17.4),
        dot(62, 8, 4.2, 17.4),
        dot(68, 25, 4.2, 34.4),
        dot(52, 25, 4.2, 34.4),
        dot(36, 25, 4.2, 34.4),
      ].slice(0, n)
    case 'mica-three-dot':
      return [36, 52, 68].map((x) => dot(x, 12, 4.8, 31.5)).slice(0, n)
    case 'film-stripes':
      return Array.from({ length: n }, (_, i) => {
        const h = 26 / Math.max(n, 5)
        const y = 2.5 + i * h
        return { x: 34, y, w: 30, h: h - 0.9, r: 0, lx: 68, ly: y + h / 2 + 1, beside: true }
      })
    case 'tantalum':
      return [
        { x: 41, y: 2, w: 22, h: 6.6, r: 3, lx: 70, ly: 6.6, beside: true },
        { x: 38, y: 9.6, w: 28, h: 6, r: 0, lx: 70, ly: 13.8, beside: true },
        { ...dot(58, 20.4, 3.6, 0), lx: 70, ly: 21.6, beside: true },
        { x: 40, y: 25.4, w: 24, h: 5.6, r: 2.4, lx: 70, ly: 29.6, beside: true },
      ].slice(0, n)
    case 'disc':
    case 'can':
    case 'chip':
    case 'film':
    case 'lamp':
    case 'coil':
    case 'transistor':
    case 'circuit':
    case 'valve':
    case 'fuse':
    case 'switch':
    case 'loudspeaker':
      return []
  }
}

/** The body that a part on the tray is drawn with. */
export function shapeOf(part: Strip): Shape {
  return part.scheme ?? shapeOfReading(part.kind, part.code ?? null, part.family ?? null, part.can)
}

/** The body for a printed marking. */
export function shapeOfReading(
  kind: Strip['kind'],
  code: string | null,
  family: Strip['family'] | null,
  sections: boolean,
): Shape {
  switch (kind) {
    case 'resistor':
      return code === 'chip code' || code === 'EIA-96 code' ? 'chip' : 'bands'
    case 'capacitor':
      if (sections || family === 'electrolytic') return 'can'
      if (family === 'mica' || family === 'silver mica') return 'mica-three-dot'
      if (family === 'ceramic class 1' || family === 'ceramic class 2' || code === 'digit code') return 'disc'
      return 'film'
    case 'coil':
      return 'coil'
    case 'diode':
      return 'diode-bands'
    case 'lamp':
      return 'lamp'
    case 'transistor':
      return 'transistor'
    case 'integrated circuit':
      return 'circuit'
    case 'valve':
    case 'fuse':
    case 'switch':
    case 'loudspeaker':
      return kind
  }
}
