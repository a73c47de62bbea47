import type { DrawnFeed } from '../api/client'

type Part = DrawnFeed['parts'][number]
export interface Placed {
  part: Part
  /** Which end is drawn at the left or at the top: the one nearer to the rail. */
  turned: boolean
  x: number
  y: number
  length: number
  status: boolean
}
export interface PlacedNode {
  node: string
  x: number
  y: number
}
export interface Layout {
  nodes: PlacedNode[]
  /** In line, from node to node. */
  series: Placed[]
  /** Down to ground. */
  shunts: Placed[]
  /** Wires from a node to where its parts hang. */
  wires: string[]
  width: number
  height: number
}

const ROW = 214
const SHUNT = 104
const SERIES = 168
const LEFT = 66
const TOP = 62

/**
 * Where the parts of a feed stand on the page: the rail at the left, each node at its distance from it, what goes to
 * ground hanging below its node. A part between two nodes that are both reached already is drawn below them.
 */
export function layout(feed: DrawnFeed): Layout {
  const nodes: PlacedNode[] = []
  const series: Placed[] = []
  const shunts: Placed[] = []
  const wires: string[] = []
  const left = new Set(feed.parts)
  const grounded = (p: Part) => p.a === 'ground' || p.b === 'ground'
  const other = (p: Part, n: string) => (p.a === n ? p.b : p.a)
  let rows = 0
  let width = 0

  function place(node: string, x: number, row: number) {
    const y = TOP + row * ROW
    nodes.push({ node, x, y })
    const hanging = [...left].filter((p) => grounded(p) && (p.a === node || p.b === node))
    hanging.forEach((part, i) => {
      left.delete(part)
      const at = x + i * SHUNT
      shunts.push({ part, turned: part.a === 'ground', x: at, y, length: 118, status: true })
      if (i) wires.push(`M${at - SHUNT} ${y}H${at}`)
    })
    const end = x + Math.max(hanging.length - 1, 0) * SHUNT
    width = Math.max(width, end + (hanging.length ? SHUNT * 0.75 : 40))
    let here = row
    let first = true
    const onward = () => [...left].find((p) => !grounded(p) && (p.a === node || p.b === node))
    for (let part = onward(); part; part = onward()) {
      left.delete(part)
      const far = other(part, node)
      const known = nodes.find((n) => n.node === far)
      if (!first) here = ++rows
      const at = TOP + here * ROW
      if (at !== y) wires.push(`M${end} ${y}V${at}`)
      const start = end + (hanging.length ? 18 : 0)
      if (start !== end) wires.push(`M${end} ${at}H${start}`)
      series.push({ part, turned: part.b === node, x: start, y: at, length: SERIES, status: false })
      if (known) wires.push(`M${start + SERIES} ${at}V${at + 40}H${known.x}V${known.y}`)
      else place(far, start + SERIES, here)
      width = Math.max(width, start + SERIES + 30)
      first = false
    }
  }
  place('rail', LEFT, 0)
  // What hangs on nothing that the rail reaches.
  for (let rest = [...left][0]; rest; rest = [...left][0]) {
    rows += 1
    place(rest.a === 'ground' ? rest.b : rest.a, LEFT, rows)
  }
  return { nodes, series, shunts, wires, width: width + 20, height: TOP + rows * ROW + 146 }
}
