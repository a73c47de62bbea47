import { ref, watch } from 'vue'
import { refDebounced, useEventListener, useStorage } from '@vueuse/core'
import {
  api,
  newKey,
  Problem,
  told,
  took,
  type Drawers,
  type Imported,
  type Lot,
  type PartKind,
} from '../../api/client'
import type { Bench } from '../bench/useBench'

const PAGE = 100

/** The lots that fit what is looked for, and what is done with them. */
export function useDrawers(bench: Bench) {
  // Whoever found it by its name comes with the words.
  const search = ref((bench.tool.value === 'drawers' && bench.card.value) || '')
  const looked = refDebounced(search, 150)
  const kind = useStorage<PartKind | ''>('owl-drawers-kind', '')
  const low = ref(false)
  const limit = ref(PAGE)
  const found = ref<Drawers | null>(null)
  const failure = ref<Problem | null>(null)
  const imported = ref<Imported | null>(null)
  const busy = ref(false)
  /** A file about which something is asked first. */
  const asked = ref<File | null>(null)

  const query = () => ({
    search: looked.value || undefined,
    kind: kind.value || undefined,
    low: low.value || undefined,
  })
  async function look() {
    try {
      const wanted = { ...query(), limit: limit.value }
      found.value = await told(api.GET('/api/drawers', { params: { query: wanted } }))
      failure.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (!e.away) failure.value = e
    }
  }
  watch([looked, kind, low], () => (limit.value = PAGE))
  watch([looked, kind, low, limit, () => bench.connected.value, () => bench.workshopHeard.value], look, {
    immediate: true,
  })
  useEventListener(window, 'focus', () => void look())

  /** Changes columns of a lot; what is wrong comes back. */
  async function change(lot: Lot, fields: Record<string, string>): Promise<Problem | null> {
    return attempt(() =>
      told(
        api.PATCH('/api/drawers/{id}', {
          params: { path: { id: lot.id } },
          body: { version: lot.version, fields },
        }),
      ),
    )
  }
  /** One more or one less. */
  async function count(lot: Lot, by: number): Promise<Problem | null> {
    return attempt(() =>
      told(
        api.POST('/api/drawers/{id}/count', {
          params: { path: { id: lot.id } },
          body: { key: newKey(), by },
        }),
      ),
    )
  }
  async function add(id: string, fields: Record<string, string>): Promise<Problem | null> {
    return attempt(() => told(api.POST('/api/drawers', { body: { id, fields } })))
  }
  async function remove(lot: Lot): Promise<Problem | null> {
    return attempt(async () => {
      await took(api.DELETE('/api/drawers/{id}', { params: { path: { id: lot.id } } }))
    })
  }
  /** Does something, then looks again; what went wrong stands until the next attempt or look. */
  async function attempt(work: () => Promise<unknown>): Promise<Problem | null> {
    busy.value = true
    let problem: Problem | null = null
    try {
      await work()
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem = e
    } finally {
      await look()
      busy.value = false
    }
    if (problem && !problem.field && !problem.away) failure.value = problem
    return problem
  }
  /** Reads a file of CSV into the drawers. */
  async function read(file: File, confirmed = false) {
    imported.value = null
    asked.value = null
    const problem = await attempt(async () => {
      imported.value = await told(
        api.POST('/api/drawers/import', {
          params: { query: { confirmed } },
          body: file as unknown as string,
          bodySerializer: (body) => body,
          headers: { 'content-type': 'text/csv' },
        }),
      )
    })
    // There is no field to stand beside.
    if (problem) failure.value = problem
    if (problem?.ask) asked.value = file
  }
  /** The address under which what is shown can be kept as a file. */
  function address(of: 'export' | 'labels') {
    const wanted = new URLSearchParams()
    for (const [name, value] of Object.entries(query())) if (value) wanted.set(name, String(value))
    return `/api/drawers/${of}?${wanted.toString()}`
  }

  return {
    search,
    kind,
    low,
    found,
    failure,
    imported,
    asked,
    busy,
    change,
    count,
    add,
    remove,
    read,
    address,
    newKey,
    more: () => (limit.value += PAGE),
    full: () => limit.value >= 500,
  }
}
export type DrawersUse = ReturnType<typeof useDrawers>
