import { computed, ref, watch } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import { api, newKey, Problem, told, type OfPart, type PlanAnswer, type PlanQuestion } from '../../api/client'
import { useTyped } from '../../components/useTyped'
import { words } from '../../words/en'

const w = words.reform.form
/** What is typed of the section. */
export const FIELDS = [
  { name: 'capacitance', label: w.capacitance, quantity: 'capacitance' },
  { name: 'rated', label: w.rated, quantity: 'voltage' },
  { name: 'working', label: w.working, quantity: 'voltage' },
  { name: 'idle_years', label: w.idle, quantity: 'ratio' },
] as const
/** What is typed of the supply. */
export const SUPPLY = [
  { name: 'supply.voltage', label: w.voltage, quantity: 'voltage' },
  { name: 'supply.series', label: w.series, quantity: 'resistance' },
  { name: 'supply.series_power', label: w.power, quantity: 'power' },
  { name: 'supply.current_limit', label: w.limit, quantity: 'current' },
] as const

/** A section that is prepared for reforming: what is known and typed of it, and the plan that follows. */
export function usePrepare(part: () => string, made: (run: string) => void) {
  const { typed, wrong, read } = useTyped()
  const known = ref<OfPart | null>(null)
  const plan = ref<PlanAnswer | null>(null)
  const problem = ref<Problem | null>(null)
  // Nobody says so by leaving a tick that was there.
  const polarity = ref(false)
  const mode = ref<'guided' | 'simulated bench'>('simulated bench')
  const clip = ref<keyof typeof w.clips>('tired')
  const section = ref('')
  const run = newKey()
  const busy = ref(false)

  async function load() {
    try {
      const got = await told(api.GET('/api/parts/{id}/reform', { params: { path: { id: part() } } }))
      known.value = got
      for (const f of FIELDS) typed[f.name] = String(got[f.name] ?? '')
      SUPPLY.forEach((f, n) => (typed[f.name] = got.supply[n] ?? ''))
      if (got.sections[0]) pick(got.sections[0].name)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    }
  }
  void load()

  async function question(): Promise<PlanQuestion | null> {
    const values = await read([...FIELDS, ...SUPPLY])
    const of = (name: string) => values?.[name]?.value ?? null
    const [capacitance, rated, voltage] = [of('capacitance'), of('rated'), of('supply.voltage')]
    if (capacitance == null || rated == null || voltage == null) return null
    return {
      capacitance,
      rated,
      working: of('working'),
      idle_years: of('idle_years'),
      part_id: part(),
      section: section.value || null,
      supply: {
        voltage,
        series: of('supply.series'),
        series_power: of('supply.series_power'),
        current_limit: of('supply.current_limit'),
      },
      polarity_known: polarity.value,
      vented: known.value?.vented ?? false,
    }
  }
  /** One section of a can: its own capacitance and rating. */
  function pick(name: string) {
    const s = known.value?.sections.find((s) => s.name === name)
    if (!s) return
    section.value = s.name
    typed.capacitance = s.capacitance
    if (s.rated) typed.rated = s.rated
  }
  let asked = 0
  async function compute() {
    const mine = ++asked
    try {
      const body = await question()
      const got = body && (await told(api.POST('/api/reform/plan', { body })))
      if (mine !== asked) return
      plan.value = got
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine !== asked) return
      plan.value = null
      problem.value = e
    }
  }
  const soon = useDebounceFn(compute, 200)
  watch([typed, polarity, section], () => void soon(), { deep: true })

  async function put() {
    busy.value = true
    try {
      const body = await question()
      if (!body) return
      await told(
        api.POST('/api/reform/runs', {
          body: {
            id: run,
            part_id: part(),
            plan: body,
            mode: mode.value,
            clip: mode.value === 'guided' ? null : clip.value,
            speed: mode.value === 'guided' ? null : 60,
            seed: null,
            faults: [],
          },
        }),
      )
      made(run)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
    } finally {
      busy.value = false
    }
  }
  const at = (field: string) =>
    wrong.value[field] ?? (problem.value?.field === field ? problem.value.detail : null)
  const elsewhere = computed(() => {
    const p = problem.value
    const named: string[] = [...FIELDS, ...SUPPLY].map((f) => f.name)
    return p && ![...named, 'section'].includes(p.field ?? '') ? p.detail : null
  })

  return { typed, known, plan, polarity, mode, clip, section, busy, pick, put, at, elsewhere }
}
