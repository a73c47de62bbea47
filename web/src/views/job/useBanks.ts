import { computed, reactive, ref, watch } from 'vue'
import { api, newKey, told, type Bank, type BankPart, type Banks } from '../../api/client'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import { useStage } from './useStage'

/** The banks of the open ticket, one of them in hand: told, measured place by place, let go as one. */
export function useBanks() {
  const bench = useBench()
  const stage = useStage((id) => told(api.GET('/api/tickets/{id}/banks', { params: { path: { id } } })))
  const { data, ticket } = stage
  const sending = useSending(bench)
  const chosen = ref<string | null>(null)
  const bank = computed<Bank | null>(() => data.value?.banks.find((b) => b.id === chosen.value) ?? null)
  const draft = reactive({
    id: null as string | null,
    version: null as number | null,
    name: '',
    kind: 'capacitor bank' as Bank['kind'],
    volts: '',
    members: '',
    across: '',
    marking: '',
    across_marking: '',
    /** Of a bridge that is put together in one go. */
    legs: null as number | null,
  })
  const kind = computed(() => data.value?.kinds.find((k) => k.kind === draft.kind) ?? null)

  function open(b: Bank) {
    chosen.value = b.id
    Object.assign(draft, {
      id: b.id,
      version: b.version,
      name: b.name,
      kind: b.kind,
      volts: b.volts.text,
      members: b.members,
      across: b.across,
      marking: '',
      across_marking: '',
      legs: null,
    })
  }
  function begin() {
    chosen.value = null
    Object.assign(draft, {
      id: null,
      version: null,
      name: '',
      volts: '',
      members: '',
      across: '',
      marking: '',
      across_marking: '',
      legs: null,
    })
  }
  /** What a write answers with, and the tray with it: parts may have been put there or decided on. */
  async function shown(done: Banks | undefined, id: string | null) {
    if (!done) return
    data.value = done
    const now = done.banks.find((b) => b.id === id) ?? done.banks.at(-1)
    if (now) open(now)
    else begin()
  }
  watch(data, (d, before) => {
    const part = bench.strip.value?.name
    if (!d || before) return
    const its = d.banks.find((b) => b.places.some((p) => [p.member.name, p.across?.name].includes(part)))
    const first = its ?? d.banks.at(-1)
    if (first) open(first)
  })

  async function save() {
    const id = ticket.value
    if (!id) return
    const key = draft.id ?? newKey()
    const body = { ...draft, id: key, legs: draft.kind === 'diode string' ? draft.legs : null }
    const done = await sending.send(body, () =>
      told(api.PUT('/api/tickets/{id}/banks', { params: { path: { id } }, body })),
    )
    await shown(done, key)
  }
  async function remove() {
    const id = draft.id
    if (!id) return
    const done = await sending.send({ remove: id }, () =>
      told(api.DELETE('/api/banks/{id}', { params: { path: { id } } })),
    )
    await shown(done, null)
  }
  async function allGo() {
    const b = bank.value
    if (!b) return
    const done = await sending.send({ go: b.id, version: b.version }, ({ key }) =>
      told(
        api.POST('/api/banks/{id}/go', { params: { path: { id: b.id } }, body: { key, version: b.version } }),
      ),
    )
    await shown(done, b.id)
  }

  /** Readings, one field for each part. */
  const measuring = useSending(bench)
  const typed = reactive<Record<string, string>>({})
  const asked = ref<string | null>(null)
  const state = ref<'lifted' | 'out of circuit'>('lifted')
  async function measure(part: BankPart): Promise<boolean> {
    const text = (typed[part.id] ?? '').trim()
    if (!text) return false
    asked.value = part.id
    const content = { part: part.id, text, state: state.value }
    const done = await measuring.send(content, ({ key, confirmed }) =>
      told(
        api.POST('/api/parts/{id}/readings', {
          params: { path: { id: part.id } },
          body: { key, typed: text, state: state.value, hot: false, confirmed },
        }),
      ),
    )
    if (!done) return false
    typed[part.id] = ''
    await stage.fetch()
    return true
  }
  const wrong = (part: BankPart) => (asked.value === part.id ? measuring.problem.value : null)
  return {
    ...stage,
    sending,
    bank,
    kind,
    draft,
    open,
    begin,
    save,
    remove,
    allGo,
    typed,
    state,
    measure,
    wrong,
  }
}
