import { computed, reactive, ref, watch } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import { Problem, type Part } from '../../api/client'
import { useTyped, type TypedSpec } from '../../components/useTyped'
import type { FieldSpec, Result, Sheet } from './sheets'

interface Row {
  id: number
  name: string
  flag: boolean
}

/** A bench sheet being filled in: read and computed by the server with every change. */
export function useSheet(sheet: Sheet, part: Part | null) {
  const { typed, wrong, read } = useTyped()
  const picked = reactive<Record<string, string>>({})
  const result = ref<Result | null>(null)
  const problem = ref<Problem | null>(null)
  /** Fields that were filled from the part. */
  const taken = ref<string[]>([])
  const rows = ref<Row[]>([])
  let next = 0

  function own(f: FieldSpec): string | undefined {
    const fact = part?.facts.find((known) => known.fact === f.fact)?.text
    if (fact) return fact
    if (f.own === 'capacitor' && part?.kind === 'capacitor') return (part.sheet ?? part.marked)?.text
    if (f.own === 'coil' && part?.kind === 'coil') return part.winding?.text
    return undefined
  }
  for (const f of sheet.fields) {
    const known = own(f)
    if (known) taken.value.push(f.name)
    typed[f.name] = known ?? f.initial ?? ''
  }
  for (const p of sheet.picks ?? []) picked[p.name] = Object.keys(p.options)[0] ?? ''
  function addRow(first: Record<string, string> = {}) {
    const id = next++
    for (const f of sheet.rows?.fields ?? []) typed[`row${id}.${f.name}`] = first[f.name] ?? ''
    rows.value.push({ id, name: first.name ?? '', flag: false })
  }
  function removeRow(id: number) {
    rows.value = rows.value.filter((r) => r.id !== id)
  }
  for (const first of sheet.rows?.first ?? []) addRow(first)

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
      const values = await read(specs.value)
      if (mine !== asked) return
      if (!values || sheet.needs.some((f) => !values[f])) {
        result.value = null
        problem.value = null
        return
      }
      const filled = rows.value.map((r) => ({
        name: r.name,
        flag: r.flag,
        values: Object.fromEntries(
          (sheet.rows?.fields ?? []).map((f) => [f.name, values[`row${r.id}.${f.name}`]]),
        ),
      }))
      const got = await sheet.ask(values, picked, filled)
      if (mine !== asked) return
      result.value = got
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
    return p && !sheet.fields.some((f) => f.name === p.field) ? p.detail : null
  })
  return { typed, wrong, picked, rows, result, taken, addRow, removeRow, problemAt, elsewhere }
}
