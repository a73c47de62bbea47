import { words } from '../../words/en'
import type { Tool } from './usePlace'

/** The tools, with the keys that open them. */
export const TOOLS: { tool: Tool; label: string; key: string }[] = [
  { tool: 'reader', label: words.reader.open, key: 'R' },
  { tool: 'drawers', label: words.drawers.open, key: 'B' },
  { tool: 'networks', label: words.networks.open, key: 'C' },
  { tool: 'supply', label: words.supply.open, key: 'S' },
  { tool: 'reform', label: words.reform.open, key: 'V' },
  { tool: 'transistors', label: words.transistor.open, key: 'T' },
  { tool: 'workshop', label: words.workshop.open, key: 'W' },
]

/** Whether a tool is the one that is open; the colour card belongs to the reader. */
export function isOpen(tool: Tool, open: Tool | null): boolean {
  return open === tool || (tool === 'reader' && open === 'cards')
}
