import { useStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Strip } from '../../api/client'
import { said } from '../../words/dialect'
import type { Bench } from './useBench'

export const ORDERS = ['sheet', 'worst', 'position', 'valve'] as const
export type Order = (typeof ORDERS)[number]

/** In which order the strips lie on the tray, which of them are shown, and which belong together. */
export function useTrayOrder(bench: Bench) {
  const order = useStorage<Order>('owl-order', 'sheet')
  const filter = ref('')
  const toMeasure = ref(false)

  function fits(p: Strip): boolean {
    if (toMeasure.value && !p.to_measure) return false
    const wanted = filter.value.trim().toLowerCase()
    const text = [
      p.name,
      p.kind,
      p.position,
      said(p.position ?? ''),
      p.place,
      p.family,
      p.note,
      p.verdict,
      p.status,
    ]
    return wanted.split(/\s+/).every((w) => text.join(' ').toLowerCase().includes(w))
  }

  const parts = computed(() => {
    const shown = (bench.ticket.value?.parts ?? []).filter(fits)
    // The places in the order in which the workshop names them, the parts without one last.
    const places = (bench.workshop.value?.words.positions ?? []).flatMap((p) => p.positions)
    const at = (p: Strip) => (p.position ? places.indexOf(p.position) : places.length)
    if (order.value === 'worst') shown.sort((a, b) => b.urgency - a.urgency)
    if (order.value === 'position') shown.sort((a, b) => at(a) - at(b))
    // Pin by pin: halves of a pair lie where they sit.
    if (order.value === 'valve') return shown.sort((a, b) => (a.valve_order < b.valve_order ? -1 : 1))
    return together(shown)
  })

  function turn() {
    order.value = ORDERS[(ORDERS.indexOf(order.value) + 1) % ORDERS.length] ?? 'sheet'
  }

  return { order, filter, toMeasure, parts, turn }
}

/** Parts of a pair or group side by side, behind the first of them. */
function together(parts: Strip[]): Strip[] {
  const out: Strip[] = []
  for (const p of parts) {
    if (out.includes(p)) continue
    const others = parts.filter((o) => o !== p && !out.includes(o))
    out.push(p, ...others.filter((o) => p.group.some((g) => g.id === o.id)))
  }
  return out
}
