import { computed, reactive } from 'vue'
import { api, told, type Ticket } from '../../api/client'
import type { Bench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** A row that is left empty is not sent. */
const filled = <T extends object>(rows: T[]) =>
  rows.filter((r) => Object.values(r).some((v) => typeof v === 'string' && v.trim() !== ''))

/** What is known of a set's supply, being filled in: as typed, read and checked by the server. */
export function useSetForm(bench: Bench, ticket: Ticket) {
  const { busy, problem, wrong, send } = useSending(bench)
  const set = ticket.set
  const form = reactive({
    facts: Object.fromEntries(set.facts.map((f) => [f.fact, f.text])) as Record<string, string>,
    rectifier: set.rectifier ?? null,
    rails: set.rails.map((r) => ({ name: r.name, volts: r.volts.text })),
    heaters: set.heaters.map((h) => ({
      name: h.name,
      volts: h.volts.text,
      current: h.current.text,
      lamp: h.lamp,
    })),
    ballast: set.ballast?.text ?? '',
    ballast_high: set.ballast_high?.text ?? '',
    barretter: set.barretter ?? '',
  })
  const addRail = () => form.rails.push({ name: '', volts: '' })
  // The next heater of a chain carries what the last one does.
  const addHeater = () =>
    form.heaters.push({ name: '', volts: '', current: form.heaters.at(-1)?.current ?? '', lamp: false })
  if (!form.rails.length) addRail()
  if (!form.heaters.length) addHeater()
  const untouched = JSON.stringify(form)
  const written = computed(() => JSON.stringify(form) !== untouched)

  /** Rows that are empty are left out, so a row's problem is found by its place among the others. */
  const at = <T extends object>(rows: T[], row: T) => filled(rows).indexOf(row)
  const railWrong = (row: (typeof form.rails)[number], field: string) =>
    wrong(`set.rails[${at(form.rails, row)}].${field}`)
  const heaterWrong = (row: (typeof form.heaters)[number], field: string) =>
    wrong(`set.heaters[${at(form.heaters, row)}].${field}`)
  /** A problem that belongs to no field of the form. */
  const elsewhere = computed(() => {
    const p = problem.value
    return p && !/^set\.(facts\.|rails\[|heaters\[|ballast|barretter)/.test(p.field ?? '') ? p.detail : null
  })

  async function save() {
    const body = { ...form, rails: filled(form.rails), heaters: filled(form.heaters) }
    await send(body, () =>
      told(
        api.PATCH('/api/tickets/{id}', {
          params: { path: { id: ticket.id } },
          body: { version: ticket.version, set: body },
        }),
      ),
    )
  }
  return { form, busy, wrong, railWrong, heaterWrong, elsewhere, written, addRail, addHeater, save }
}
