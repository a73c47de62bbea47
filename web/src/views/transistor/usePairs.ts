import { computed, reactive, ref, watch } from 'vue'
import { useSessionStorage, useStorage } from '@vueuse/core'
import { api, newKey, Problem, told, took, type MatchLot, type PairedLot } from '../../api/client'
import { useBench } from '../bench/useBench'
import type { Stage } from './useDesk'

export interface Piece {
  label: string
  gain: string
  base_volts: string
}
interface Draft {
  id: string
  version: number | null
  name: string
  type_number: string
  stage: Stage | null
  test_current: string
  emitter_resistor: string
  idle_current: string
  pieces: Piece[]
}

/** Lots that are measured to find pairs: as typed, kept by the server, paired by the server. */
export function usePairs() {
  const bench = useBench()
  const lots = ref<MatchLot[] | null>(null)
  const chosen = useStorage<string | null>('owl-lot', null)
  const size = useStorage<'pairs' | 'quads'>('owl-group-size', 'pairs')
  const found = ref<PairedLot | null>(null)
  const draft = useSessionStorage<Draft | null>('draft:lot', null, {
    serializer: { read: (raw) => JSON.parse(raw), write: (value) => JSON.stringify(value) },
  })
  const problem = ref<Problem | null>(null)
  const busy = ref(false)
  const asking = ref(false)
  const next = reactive<Piece>({ label: '', gain: '', base_volts: '' })

  const asTyped = (lot: MatchLot): Draft => ({
    id: lot.id,
    version: lot.version,
    name: lot.name,
    type_number: lot.type_number,
    stage: lot.stage ?? null,
    test_current: lot.test_current?.text ?? '',
    emitter_resistor: lot.emitter_resistor?.text ?? '',
    idle_current: lot.idle_current?.text ?? '',
    pieces: lot.pieces.map((p) => ({
      label: p.label,
      gain: String(p.gain),
      base_volts: String(p.base_volts),
    })),
  })
  const saved = computed(() => lots.value?.find((l) => l.id === draft.value?.id) ?? null)
  const written = computed(() => {
    if (!draft.value) return false
    if (!saved.value) return true
    return JSON.stringify(asTyped(saved.value)) !== JSON.stringify(draft.value)
  })

  async function look() {
    try {
      lots.value = await told(api.GET('/api/transistors/lots'))
      const first = lots.value.find((l) => l.id === chosen.value) ?? lots.value[0]
      if (!draft.value && first) open(first.id)
      else await pair()
    } catch (e) {
      if (!(e instanceof Problem)) throw e
    }
  }
  async function pair() {
    const id = saved.value?.id
    if (!id) {
      found.value = null
      return
    }
    try {
      found.value = await told(
        api.GET('/api/transistors/lots/{id}', {
          params: { path: { id }, query: { size: size.value } },
        }),
      )
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e.away ? null : e
      found.value = null
    }
  }
  watch(
    () => bench.connected.value,
    () => void look(),
    { immediate: true },
  )
  watch(size, () => void pair())

  function open(id: string) {
    const lot = lots.value?.find((l) => l.id === id)
    if (!lot) return
    chosen.value = id
    draft.value = asTyped(lot)
    problem.value = null
    clear()
    void pair()
  }
  function begin() {
    draft.value = {
      id: newKey(),
      version: null,
      name: '',
      type_number: bench.part.value?.kind === 'transistor' ? (bench.part.value.type_number ?? '') : '',
      stage: bench.part.value?.stage ?? null,
      test_current: '',
      emitter_resistor: '',
      idle_current: '',
      pieces: [],
    }
    found.value = null
    problem.value = null
    clear()
  }
  /** The next label: one more than the last. */
  function clear() {
    const last = draft.value?.pieces.at(-1)?.label ?? '0'
    const n = Number(last)
    next.label = Number.isInteger(n) ? String(n + 1) : ''
    next.gain = ''
    next.base_volts = ''
  }
  function add(): boolean {
    const d = draft.value
    if (!d || !next.label.trim() || !next.gain.trim() || !next.base_volts.trim()) return false
    d.pieces.push({ ...next })
    clear()
    return true
  }
  /** Asks the tester for the piece that lies in it. */
  async function fromTester() {
    const d = draft.value
    if (!d) return
    asking.value = true
    try {
      const got = await told(
        api.POST('/api/transistors/measure', { body: { lot: d.name, label: next.label } }),
      )
      next.gain = got.gain
      next.base_volts = got.base_volts
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    } finally {
      asking.value = false
    }
  }
  async function save() {
    const d = draft.value
    if (!d) return
    busy.value = true
    try {
      const { id, ...body } = d
      const at = { params: { path: { id } }, body }
      const kept =
        d.version === null
          ? await told(api.POST('/api/transistors/lots/{id}', at))
          : await told(api.PATCH('/api/transistors/lots/{id}', at))
      chosen.value = id
      draft.value = asTyped(kept.lot)
      problem.value = null
      await look()
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    } finally {
      busy.value = false
    }
  }
  async function remove() {
    const d = draft.value
    if (!d) return
    try {
      if (d.version !== null) {
        await took(api.DELETE('/api/transistors/lots/{id}', { params: { path: { id: d.id } } }))
      }
      draft.value = null
      chosen.value = null
      found.value = null
      await look()
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    }
  }
  const wrong = (field: string) => (problem.value?.field === field ? problem.value.detail : null)
  function address(of: 'labels' | 'csv') {
    return `/api/transistors/lots/${draft.value?.id}/${of}?size=${size.value}`
  }

  return {
    lots,
    size,
    found,
    draft,
    saved,
    written,
    problem,
    busy,
    asking,
    next,
    open,
    begin,
    add,
    fromTester,
    save,
    remove,
    wrong,
    address,
  }
}
