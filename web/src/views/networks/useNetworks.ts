import { onScopeDispose, reactive, ref, watch } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import { combineStream, Problem, type Combine, type CombineQuestion } from '../../api/client'
import { useTyped } from '../../components/useTyped'
import { useBench } from '../bench/useBench'

export const SERIES = ['E6', 'E12', 'E24', 'E48', 'E96', 'E192'] as const
type Series = (typeof SERIES)[number]
/** Where a series is searched: what is sold. */
const RANGE = { resistor: [1, 1e7], capacitor: [1e-12, 1e-2] } as const

/** The search for networks: asked anew with every change, streamed, stopped by the next one. */
export function useNetworks() {
  const bench = useBench()
  const { typed, wrong, read } = useTyped()
  const part = bench.part.value
  const form = reactive({
    kind: part?.kind === 'capacitor' ? ('capacitor' as const) : ('resistor' as 'resistor' | 'capacitor'),
    parts: 3,
    from: 'drawers' as 'drawers' | 'own' | Series,
    own: '',
  })
  // From the part in hand: what its place wants.
  const sheet = part && part.kind === form.kind ? (part.sheet ?? part.marked) : null
  typed.target = sheet?.text ?? ''
  const found = ref<Combine | null>(null)
  const problem = ref<Problem | null>(null)
  const going = ref(false)
  const picked = ref(0)
  const wrongOwn = ref<string | null>(null)
  let running: AbortController | null = null

  async function question(): Promise<CombineQuestion | null> {
    const of = form.kind === 'resistor' ? ('resistance' as const) : ('capacitance' as const)
    const own = form.from === 'own' ? form.own.split(/[,;\s]+/).filter(Boolean) : []
    own.forEach((text, i) => (typed[`own${i}`] = text))
    const values = await read([
      { name: 'target', quantity: of },
      { name: 'pinned', quantity: of },
      { name: 'volts', quantity: 'voltage' },
      { name: 'power', quantity: 'power' },
      { name: 'rating', quantity: 'voltage' },
      ...own.map((_, i) => ({ name: `own${i}`, quantity: of })),
    ])
    const bad = Object.keys(wrong.value).find((k) => k.startsWith('own'))
    wrongOwn.value = bad ? (wrong.value[bad] ?? null) : null
    if (!values?.target) return null
    const rating = {
      power: form.kind === 'resistor' ? values.power?.value : undefined,
      voltage: form.kind === 'capacitor' ? values.rating?.value : undefined,
    }
    const [low, high] = RANGE[form.kind]
    const from: CombineQuestion['from'] =
      form.from === 'drawers'
        ? { drawers: true }
        : form.from === 'own'
          ? { values: own.map((_, i) => ({ value: values[`own${i}`]?.value ?? 0 })) }
          : { series: form.from, low, high }
    return {
      kind: form.kind,
      target: values.target.value,
      max_parts: form.parts,
      pinned: values.pinned?.value,
      load: values.volts ? { voltage: values.volts.value } : null,
      rating: rating.power || rating.voltage ? rating : null,
      from,
      limit: 12,
    }
  }

  async function search() {
    running?.abort()
    const mine = new AbortController()
    running = mine
    try {
      const asked = await question()
      if (mine.signal.aborted) return
      problem.value = null
      if (!asked) {
        found.value = null
        return
      }
      going.value = true
      picked.value = 0
      for await (const answer of combineStream(asked, mine.signal)) found.value = answer
    } catch (e) {
      if (e instanceof DOMException && e.name === 'AbortError') return
      if (!(e instanceof Problem)) throw e
      problem.value = e.away ? null : e
      found.value = null
    } finally {
      if (running === mine) going.value = false
    }
  }
  const soon = useDebounceFn(search, 180)
  watch([form, typed], () => void soon(), { deep: true })
  void search()
  function stop() {
    running?.abort()
    going.value = false
  }
  onScopeDispose(stop)

  return { form, typed, wrong, wrongOwn, found, problem, going, picked, stop }
}
