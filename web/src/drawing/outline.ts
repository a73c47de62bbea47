import type { Outline } from '../api/client'

/** Where a lead of an outline stands in its drawing of 120 by 120; turned by half, where it is. */
export function leadAt(outline: Outline, i: number, turned = false): { x: number; y: number } {
  const { x, y } = upright(outline, i)
  return turned ? { x: 120 - x, y: 120 - y } : { x, y }
}

function upright(outline: Outline, i: number): { x: number; y: number } {
  const lead = outline.leads[i]
  const x = 60 + (lead?.x ?? 0) * 56
  if (outline.package === 'TO-92') return { x, y: 52 }
  if (outline.shape === 'row' && outline.mount !== 'leads') return { x, y: 57 }
  return { x, y: 60 - (lead?.y ?? 0) * 56 }
}
