import { ElMessage } from 'element-plus'
import { computed, inject, provide, ref, watch, type InjectionKey } from 'vue'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import {
  api,
  connected,
  isBack,
  Problem,
  told,
  type Changed,
  type Choice,
  type Part,
  type Step,
  type Ticket,
  type TicketLine,
  type Workshop,
} from '../../api/client'
import { words } from '../../words/en'

const STEPS: Step[] = ['read', 'measure', 'judge', 'fit', 'prove']
const TOOLS = [
  'job',
  'reader',
  'cards',
  'drawers',
  'networks',
  'supply',
  'reform',
  'transistors',
  'workshop',
] as const
export type Tool = (typeof TOOLS)[number]
export const STAGES = ['intake', 'power', 'chart', 'feed', 'parts', 'changes', 'close'] as const
export type Stage = (typeof STAGES)[number]
const KEY: InjectionKey<Bench> = Symbol('bench')
/** What a tool hands to a part. */
export interface Handed {
  part: string
  description: string
  value: string
  family: Choice['family']
  type_number?: string
  pieces: { lot: string | null; description: string }[]
}
export type Bench = ReturnType<typeof create>

/** The bench: the shelf, the open ticket, the selected part and its step. */
export function provideBench(): Bench {
  const bench = create()
  provide(KEY, bench)
  return bench
}

export function useBench(): Bench {
  const bench = inject(KEY)
  if (!bench) throw new Error('no bench above this component')
  return bench
}

function create() {
  const route = useRoute()
  const router = useRouter()
  const workshop = ref<Workshop | null>(null)
  const shelf = ref<TicketLine[] | null>(null)
  const ticket = ref<Ticket | null>(null)
  /** Closed tickets are filed away, but for the one that is open. */
  const onShelf = computed(() => (shelf.value ?? []).filter((t) => !t.closed || t.id === ticketId.value))
  const loading = ref(true)
  const missing = ref<string | null>(null)
  const conflict = ref<{ detail: string; changed: Changed[] } | null>(null)

  const param = (name: string) => {
    const value = route.params[name]
    return typeof value === 'string' && value ? value : null
  }
  const ticketId = computed(() => param('ticket'))
  const part = computed<Part | null>(
    () => ticket.value?.parts.find((p) => p.name === param('part')) ?? ticket.value?.parts[0] ?? null,
  )
  const step = computed<Step>(() => {
    const asked = param('step') as Step | null
    const there = asked && part.value?.steps.includes(asked)
    return there ? asked : (part.value?.step ?? 'read')
  })
  const cautions = computed(() => ticket.value?.cautions.filter((c) => c.step === step.value) ?? [])

  /** A tool that stands where tray and station stand. Going to a part closes it. */
  const opening = ref<{ tool: Tool | null } | null>(null)
  const tool = computed<Tool | null>(
    () => (opening.value ? opening.value.tool : TOOLS.find((t) => t === route.query.tool)) ?? null,
  )
  /** A network that was found for a part, on its way to the Fit step. */
  const handed = ref<Handed | null>(null)
  const card = computed(() => (typeof route.query.card === 'string' ? route.query.card : null))
  async function openTool(next: Tool | null, which?: string) {
    const query: Record<string, string> = {}
    if (next) query.tool = next
    if (which) query.card = which
    // At once, not when the address has followed: what is typed next belongs to the tool.
    opening.value = { tool: next }
    await router.replace({ name: 'bench', params: route.params, query })
    opening.value = null
  }

  function go(to: { ticket?: string; part?: string | null; step?: Step | null }) {
    const params: Record<string, string> = {}
    const id = to.ticket ?? ticketId.value
    const name = to.part === undefined ? part.value?.name : to.part
    if (id) params.ticket = id
    if (id && name) params.part = name
    if (id && name && to.step) params.step = to.step
    void router.replace({ name: 'bench', params })
  }
  /** Opens a part at the step that is next for it. */
  function select(name: string) {
    go({ part: name, step: null })
  }
  function move(by: number) {
    const parts = ticket.value?.parts ?? []
    const at = parts.findIndex((p) => p.id === part.value?.id)
    const next = parts[Math.min(Math.max(at + by, 0), parts.length - 1)]
    if (next) select(next.name)
  }
  function openTicket(id: string) {
    go({ ticket: id, part: null, step: null })
  }
  /** The stages of the job in the order of the work; the tray with its parts is one of them. */
  const stage = computed<Stage>(() =>
    tool.value === 'job' ? (STAGES.find((s) => s === card.value) ?? 'intake') : 'parts',
  )
  function openStage(next: Stage) {
    void openTool(next === 'parts' ? null : 'job', next === 'parts' ? undefined : next)
  }
  function moveStage(by: number) {
    const at = STAGES.indexOf(stage.value)
    const next = STAGES[(at + by + STAGES.length) % STAGES.length]
    if (next && ticket.value) openStage(next)
  }
  function moveTicket(by: number) {
    const all = onShelf.value
    const at = all.findIndex((t) => t.id === ticketId.value)
    const next = all[(at + by + all.length) % all.length]
    if (next) openTicket(next.id)
  }

  async function refreshWorkshop() {
    workshop.value = await told(api.GET('/api/workshop'))
  }
  async function refreshShelf() {
    shelf.value = await told(api.GET('/api/tickets'))
  }
  async function refreshTicket() {
    const id = ticketId.value
    if (!id) {
      ticket.value = null
      return
    }
    const got = await told(api.GET('/api/tickets/{id}', { params: { path: { id } } }))
    if (ticketId.value !== id) return
    ticket.value = got
    missing.value = null
  }
  /** Everything again; a failure leaves on the screen what is there. */
  async function refresh() {
    try {
      workshop.value ??= await told(api.GET('/api/workshop'))
      await refreshShelf()
      const first = onShelf.value[0] ?? shelf.value?.[0]
      if (!ticketId.value && first) openTicket(first.id)
      else await refreshTicket()
    } catch (e) {
      if (e instanceof Problem && e.status === 404) {
        missing.value = e.detail
        ticket.value = null
      } else if (!(e instanceof Problem)) throw e
    } finally {
      loading.value = false
    }
  }

  /** Runs a change; a conflict is shown, other problems come back for the field to show. */
  async function change<T>(work: () => Promise<T>): Promise<{ done?: T; problem?: Problem }> {
    try {
      const done = await work()
      await refresh()
      return { done }
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (e.status === 409) conflict.value = { detail: e.detail, changed: e.changed }
      if (e.status === 404) void refresh()
      return { problem: e }
    }
  }

  watch(ticketId, async (now, before) => {
    if (now === before) return
    loading.value = true
    ticket.value = null
    await refresh()
  })
  useEventListener(window, 'focus', async () => {
    await refresh()
    // Instruments are changed in other windows too.
    if (connected.value) await refreshWorkshop().catch(() => undefined)
  })

  // While nobody answers, ask every two seconds; when somebody does again, whoever noticed it first,
  // look at everything anew.
  const asking = useIntervalFn(() => void isBack(), 2000, { immediate: false })
  watch(connected, async (up) => {
    if (!up) {
      asking.resume()
      return
    }
    asking.pause()
    await refresh()
    if (connected.value) ElMessage({ message: words.away.back, type: 'success', duration: 2500 })
  })
  if (!connected.value) asking.resume()
  void refresh()

  return {
    workshop,
    shelf,
    onShelf,
    ticket,
    ticketId,
    part,
    step,
    cautions,
    loading,
    missing,
    conflict,
    connected,
    tool,
    handed,
    card,
    openTool,
    steps: STEPS,
    go,
    select,
    move,
    openTicket,
    stage,
    openStage,
    moveStage,
    moveTicket,
    refresh,
    refreshWorkshop,
    change,
  }
}
