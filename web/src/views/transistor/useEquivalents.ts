import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { api, Problem, told, type Equivalents, type EquivalentsQuestion } from '../../api/client'
import { useTyped, type TypedSpec } from '../../components/useTyped'
import { words } from '../../words/en'
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
type Asks = Equivalents['facts'][number]
export interface CircuitField extends TypedSpec {
  name: keyof typeof words.transistor.equivalents.fields
  /** The fact of the part on the tray that it is. */
  fact: Asks
  example: string
}
/** What can be known of a transistor's circuit. */
export const CIRCUIT: CircuitField[] = [
  { name: 'supply', quantity: 'voltage', fact: 'rail', example: '13.8 V' },
  { name: 'across', quantity: 'voltage', fact: 'voltage', example: '5 V' },
  { name: 'load', quantity: 'resistance', fact: 'load_resistance', example: '20 Ω' },
  { name: 'current', quantity: 'current', fact: 'peak_current', example: '0.4 A' },
  { name: 'rest_current', quantity: 'current', fact: 'rest_current', example: '1 mA' },
  { name: 'case_temperature', quantity: 'temperature', fact: 'case_temperature', example: '60 °C' },
  { name: 'frequency', quantity: 'frequency', fact: 'working_frequency', example: '1.6 MHz' },
  { name: 'upper', quantity: 'resistance', fact: 'base_upper', example: '33k' },
  { name: 'lower', quantity: 'resistance', fact: 'base_lower', example: '6k8' },
  { name: 'least_gain', quantity: 'ratio', fact: 'least_gain', example: '40' },
]
/** Of a diode, the volts that it stands. */
const REVERSE: TypedSpec = { name: 'reverse', quantity: 'voltage' }

/** What goes in for a type or for ratings: asked anew with every change. */
export function useEquivalents() {
  const bench = useBench()
  const desk = useDesk()
  const { typed, wrong, read } = useTyped()
  const kept = useSessionStorage<Record<string, string>>(desk.of('equivalents'), {})
  /** What the tray knows of the part's circuit, by the field that it fills. */
  const known = computed<Record<string, string>>(() => {
    const of = (fact: string) => bench.part.value?.facts.find((f) => f.fact === fact)?.text ?? ''
    return desk.part ? Object.fromEntries(CIRCUIT.map((f) => [f.name, of(f.fact)])) : {}
  })
  Object.assign(typed, known.value, kept.value)
  const form = reactive({
    kind: 'type' as 'type' | 'ratings' | 'circuit',
    stage: (desk.part?.stage ?? '') as NonNullable<Circuit['stage']> | '',
    hfeMin: '',
    other: false,
    /** Whether what the stage does not ask for is shown as well. */
    further: false,
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
    const values = await read([...RATINGS, ...CIRCUIT, REVERSE])
    if (!values) return null
    const of = (name: string) => values[name]?.value ?? null
    const circuit = {
      ...Object.fromEntries([...CIRCUIT, REVERSE].map((f) => [f.name, of(f.name)])),
      stage: form.stage || null,
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
    const said = CIRCUIT.filter((f) => {
      const text = typed[f.name]?.trim()
      return text && text !== known.value[f.name] && !wrong.value[f.name]
    })
    const facts = Object.fromEntries(said.map((f) => [f.fact, typed[f.name] ?? '']))
    const moved = form.stage && form.stage !== bench.part.value?.stage ? { stage: form.stage } : null
    return desk.part && (said.length || moved) ? { ...moved, facts } : null
  })
  /** What the stage asks for first; the rest where it is said already or wanted. */
  const fields = computed(() => {
    const asked = form.stage ? (found.value?.facts ?? []) : CIRCUIT.map((f) => f.fact)
    const wanted = CIRCUIT.filter((f) => asked.includes(f.fact))
    wanted.sort((a, b) => asked.indexOf(a.fact) - asked.indexOf(b.fact))
    const further = CIRCUIT.filter((f) => !wanted.includes(f))
    const shown = form.further ? further : further.filter((f) => typed[f.name])
    return { shown: [...wanted, ...shown], more: further.length > shown.length }
  })
  const refused = ref<string | null>(null)
  async function keep() {
    const part = bench.part.value
    if (!part) return
    const body = { version: part.version, ...unkept.value }
    const { done, problem: no } = await bench.change(() =>
      told(api.PATCH('/api/parts/{id}', { params: { path: { id: part.id } }, body })),
    )
    refused.value = no?.detail ?? null
    // As it is written there, so that the two are the same.
    if (done) Object.assign(typed, known.value)
  }

  const wrongAt = (field: string) => (problem.value?.field === field ? problem.value.detail : null)
  return {
    fields,
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
