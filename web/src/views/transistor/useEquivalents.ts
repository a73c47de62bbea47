import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { api, Problem, told, type Equivalents, type EquivalentsQuestion } from '../../api/client'
import { useTyped, type TypedSpec } from '../../components/useTyped'
import { useBench } from '../bench/useBench'
import { useDesk } from './useDesk'

type Ratings = NonNullable<EquivalentsQuestion['wanted']>
type Circuit = NonNullable<EquivalentsQuestion['circuit']>

/** Ratings that are typed where the original's type is not known. */
export const RATINGS: TypedSpec[] = [
  { name: 'vceo', quantity: 'voltage' },
  { name: 'ic', quantity: 'current' },
  { name: 'power', quantity: 'power' },
]
/** What can be known of the circuit. */
export const CIRCUIT: TypedSpec[] = [
  { name: 'supply', quantity: 'voltage' },
  { name: 'load', quantity: 'resistance' },
  { name: 'current', quantity: 'current' },
  { name: 'rest_current', quantity: 'current' },
  { name: 'frequency', quantity: 'frequency' },
  { name: 'upper', quantity: 'resistance' },
  { name: 'lower', quantity: 'resistance' },
  { name: 'reverse', quantity: 'voltage' },
]

/** What goes in for a type or for ratings: asked anew with every change. */
export function useEquivalents() {
  const bench = useBench()
  const desk = useDesk()
  const { typed, wrong, read } = useTyped()
  const kept = useSessionStorage<Record<string, string>>(desk.of('equivalents'), {})
  /** What the tray knows of the part's circuit, by the field that it fills. */
  const known = computed<Record<string, string>>(() => {
    const of = (fact: string) => bench.part.value?.facts.find((f) => f.fact === fact)?.text ?? ''
    const none: Record<string, string> = {}
    return desk.part ? { supply: of('rail'), current: of('load_current') } : none
  })
  Object.assign(typed, known.value, kept.value)
  const form = reactive({
    kind: 'type' as 'type' | 'ratings' | 'circuit',
    stage: (desk.part?.stage ?? '') as NonNullable<Circuit['stage']> | '',
    heat: '',
    leastGain: '',
    hfeMin: '',
    other: false,
  })
  if (!desk.wanted.type && desk.wanted.ratings) form.kind = 'ratings'
  if (bench.part.value?.kind === 'integrated circuit') form.kind = 'circuit'
  const found = ref<Equivalents | null>(null)
  const problem = ref<Problem | null>(null)
  const busy = ref(false)
  const picked = ref('')
  const candidate = computed(
    () => found.value?.candidates.find((c) => c.type === picked.value) ?? found.value?.candidates[0] ?? null,
  )
  const ratings = computed<Ratings>(() => desk.wanted.ratings ?? {})

  const number = (text: string) => {
    const t = text.trim().replace(',', '.')
    return t === '' ? null : Number(t)
  }
  async function question(): Promise<EquivalentsQuestion | null> {
    const values = await read([...RATINGS, ...CIRCUIT])
    if (!values) return null
    const of = (name: string) => values[name]?.value ?? null
    const circuit = {
      stage: form.stage || null,
      supply: of('supply'),
      load: of('load'),
      current: of('current'),
      rest_current: of('rest_current'),
      frequency: of('frequency'),
      upper: of('upper'),
      lower: of('lower'),
      reverse: of('reverse'),
      case_temperature: number(form.heat),
      least_gain: number(form.leastGain),
      other_material: form.other,
    }
    if (form.kind === 'circuit') {
      return desk.wanted.type.trim() ? { type: desk.wanted.type, kind: 'integrated circuit' } : null
    }
    if (form.kind === 'type') {
      return desk.wanted.type.trim() ? { type: desk.wanted.type, circuit, limit: 40 } : null
    }
    if (!ratings.value.polarity) return null
    const own = {
      vceo: of('vceo'),
      vcbo: of('vceo'),
      ic: of('ic'),
      power: of('power'),
      hfe_min: number(form.hfeMin),
    }
    return { wanted: { ...ratings.value, ...own }, circuit, limit: 40 }
  }

  let asked = 0
  async function look() {
    const mine = ++asked
    kept.value = { ...typed }
    try {
      const q = await question()
      if (mine !== asked) return
      if (!q) {
        found.value = null
        problem.value = null
        return
      }
      busy.value = true
      const answer = await told(api.POST('/api/transistors/equivalents', { body: q }))
      if (mine !== asked) return
      found.value = answer
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine !== asked) return
      problem.value = e.away ? problem.value : e
      if (!e.away) found.value = null
    } finally {
      if (mine === asked) busy.value = false
    }
  }
  const soon = useDebounceFn(look, 200)
  watch([form, typed, () => desk.wanted.type, () => desk.wanted.ratings], () => void soon(), { deep: true })
  watch(
    () => bench.connected.value,
    () => void look(),
    { immediate: true },
  )

  /** What was found out here of the part's circuit and the tray does not know yet. */
  const unkept = computed(() => {
    const facts = { rail: 'supply', load_current: 'current' } as const
    const said = Object.entries(facts).filter(([, field]) => {
      const text = typed[field]?.trim()
      return text && text !== known.value[field] && !wrong.value[field]
    })
    return desk.part ? Object.fromEntries(said.map(([fact, field]) => [fact, typed[field] ?? ''])) : {}
  })
  const refused = ref<string | null>(null)
  async function keep() {
    const part = bench.part.value
    if (!part) return
    const body = { version: part.version, facts: unkept.value }
    const { done, problem: no } = await bench.change(() =>
      told(api.PATCH('/api/parts/{id}', { params: { path: { id: part.id } }, body })),
    )
    refused.value = no?.detail ?? null
    // As it is written there, so that the two are the same.
    if (done) Object.assign(typed, known.value)
  }

  const wrongAt = (field: string) => (problem.value?.field === field ? problem.value.detail : null)
  return {
    unkept,
    refused,
    keep,
    typed,
    wrong,
    form,
    found,
    problem,
    busy,
    picked,
    candidate,
    ratings,
    wrongAt,
  }
}
export type EquivalentsUse = ReturnType<typeof useEquivalents>
