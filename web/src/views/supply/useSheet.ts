import { computed, reactive, ref, watch } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import { Problem, type Amount, type Part, type Ticket } from '../../api/client'
import { useTyped, type TypedSpec } from '../../components/useTyped'
import type { FieldSpec, Result, Sheet } from './sheets'

interface Row {
  id: number
  name: string
  flag: boolean
}

/** A bench sheet being filled in: read and computed by the server with every change. */
export function useSheet(sheet: Sheet, part: Part | null, now: () => Ticket | null) {
  const ticket = now()
  const { typed, wrong, read } = useTyped()
  const picked = reactive<Record<string, string>>({})
  const result = ref<Result | null>(null)
  /** What the fields hold, as the server read them. */
  const values = ref<Record<string, Amount>>({})
  const problem = ref<Problem | null>(null)
  /** Fields that were filled, and from what: the part, or what is known of its set. */
  const taken = ref<{ part: string[]; set: string[] }>({ part: [], set: [] })
  const rows = ref<Row[]>([])
  let next = 0
  const set = ticket?.set

  function own(f: FieldSpec): string | undefined {
    const fact = part?.facts.find((known) => known.fact === f.fact && !known.of_set)?.text
    if (fact) return fact
    if (f.own === 'capacitor' && part?.kind === 'capacitor') return (part.sheet ?? part.marked)?.text
    if (f.own === 'coil' && part?.kind === 'coil') return part.winding?.text
    const read = part?.measured?.measured?.text
    if (f.own === 'coil read' && part?.kind === 'coil') return read
    if (f.own === 'resistor' && part?.kind === 'resistor') {
      return read ?? (part.sheet ?? part.marked)?.text
    }
    return undefined
  }
  function ofSet(f: FieldSpec): string | undefined {
    if (!ticket || !set) return undefined
    const over = part?.facts.find((known) => known.fact === f.fact)?.text
    const fact = over ?? set.facts.find((known) => known.fact === f.fact)?.text
    if (fact) return fact
    if (f.fact === 'rail' && set.rails.length === 1) return set.rails[0]?.volts.text
    if (f.ripple) return set.ripple?.text
    if (f.chain) return set[f.chain]?.text
    return f.intake ? ticket.intake[f.intake]?.text : undefined
  }
  for (const f of sheet.fields) {
    const [mine, shared] = [own(f), ofSet(f)]
    if (mine) taken.value.part.push(f.name)
    else if (shared) taken.value.set.push(f.name)
    typed[f.name] = mine ?? shared ?? ''
  }
  for (const p of sheet.picks ?? []) {
    const known = p.name === 'circuit' ? set?.rectifier : undefined
    picked[p.name] = known ?? Object.keys(p.options)[0] ?? ''
  }
  for (const t of sheet.texts ?? []) {
    const known = t.chain ? set?.[t.chain] : null
    if (known) taken.value.set.push(t.name)
    picked[t.name] = known ?? ''
  }
  function addRow(first: Record<string, string> = {}, flag = false) {
    const id = next++
    for (const f of sheet.rows?.fields ?? []) typed[`row${id}.${f.name}`] = first[f.name] ?? ''
    rows.value.push({ id, name: first.name ?? '', flag })
  }
  function removeRow(id: number) {
    rows.value = rows.value.filter((r) => r.id !== id)
  }
  const chain = sheet.rows?.chain ? (set?.heaters ?? []) : []
  for (const h of chain) addRow({ name: h.name, volts: h.volts.text, current: h.current.text }, h.lamp)
  for (let i = chain.length; i < (sheet.rows?.first ?? 0); i++) addRow()
  if (chain.length) taken.value.set.push('heaters')

  const specs = computed<TypedSpec[]>(() => [
    ...sheet.fields,
    ...rows.value.flatMap((r) =>
      (sheet.rows?.fields ?? []).map((f) => ({ name: `row${r.id}.${f.name}`, quantity: f.quantity })),
    ),
  ])
  let asked = 0
  async function compute() {
    const mine = ++asked
    try {
      const got = await read(specs.value)
      if (mine !== asked) return
      values.value = got ?? {}
      if (!got || sheet.needs.some((f) => !got[f])) {
        result.value = null
        problem.value = null
        return
      }
      const filled = rows.value.map((r) => ({
        name: r.name,
        flag: r.flag,
        values: Object.fromEntries(
          (sheet.rows?.fields ?? []).map((f) => [f.name, got[`row${r.id}.${f.name}`]]),
        ),
      }))
      const answer = await sheet.ask(got, picked, filled)
      if (mine !== asked) return
      result.value = answer
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine !== asked || e.away) return
      problem.value = e
      result.value = null
    }
  }
  const soon = useDebounceFn(compute, 160)
  watch([typed, picked, rows], () => void soon(), { deep: true })
  void compute()

  const problemAt = (field: string) =>
    wrong.value[field] ?? (problem.value?.field === field ? problem.value.detail : null)
  /** A problem that belongs to no field that is shown. */
  const elsewhere = computed(() => {
    const p = problem.value
    return p && ![...sheet.fields, ...(sheet.texts ?? [])].some((f) => f.name === p.field) ? p.detail : null
  })
  /** What is typed and a fact of the whole set, where the set knows something else or nothing. */
  const unkept = computed<Record<string, string>>(() => {
    const known = (f: FieldSpec) => now()?.set.facts.find((fact) => fact.fact === f.fact)
    const said = sheet.fields.filter((f) => {
      const value = values.value[f.name]
      const mine = taken.value.part.includes(f.name)
      return value && known(f) && known(f)?.text !== value.text && !mine
    })
    return Object.fromEntries(said.map((f) => [f.fact ?? '', typed[f.name] ?? '']))
  })
  return { unkept, typed, wrong, picked, rows, result, taken, addRow, removeRow, problemAt, elsewhere }
}
