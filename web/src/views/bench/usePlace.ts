import { computed, ref, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Step } from '../../api/client'

export const STEPS: Step[] = ['read', 'measure', 'judge', 'fit', 'prove']
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
/** Pages that belong to the parts, and have no place of their own in the line of the job. */
const PAGES = ['banks', 'sockets'] as const
export type Stage = (typeof STAGES)[number]
export type JobPage = Stage | (typeof PAGES)[number]

/** Where one is: ticket, part, step, tool and stage, all in the address, so that a reload comes back to it. */
export function usePlace() {
  const route = useRoute()
  const router = useRouter()
  const param = (name: string) => {
    const value = route.params[name]
    return typeof value === 'string' && value ? value : null
  }
  const ticketId = computed(() => param('ticket'))
  const partName = computed(() => param('part'))
  const askedStep = computed(() => param('step') as Step | null)

  /** A tool that stands where tray and station stand. Going to a part closes it. */
  const opening = ref<{ tool: Tool | null; card: string | null } | null>(null)
  const tool = computed<Tool | null>(
    () => (opening.value ? opening.value.tool : TOOLS.find((t) => t === route.query.tool)) ?? null,
  )
  const card = computed(() => {
    if (opening.value) return opening.value.card
    return typeof route.query.card === 'string' ? route.query.card : null
  })
  async function openTool(next: Tool | null, which?: string) {
    const query: Record<string, string> = {}
    if (next) query.tool = next
    if (which) query.card = which
    // At once, not when the address has followed: what is typed next belongs to the tool.
    opening.value = { tool: next, card: which ?? null }
    await router.replace({ name: 'bench', params: route.params, query })
    opening.value = null
  }

  /** The stages of the job in the order of the work; the tray with its parts is one of them. */
  const page = computed<JobPage>(() =>
    tool.value === 'job' ? ([...STAGES, ...PAGES].find((s) => s === card.value) ?? 'intake') : 'parts',
  )
  const stage = computed<Stage>(() => STAGES.find((s) => s === page.value) ?? 'parts')
  function openStage(next: JobPage) {
    void openTool(next === 'parts' ? null : 'job', next === 'parts' ? undefined : next)
  }
  function moveStage(by: number) {
    const next = STAGES[(STAGES.indexOf(stage.value) + by + STAGES.length) % STAGES.length]
    if (next) openStage(next)
  }

  return { router, ticketId, partName, askedStep, tool, card, openTool, page, stage, openStage, moveStage }
}

/** Going to a ticket, a part, a step; what is not said stays. */
export function useGoing(place: ReturnType<typeof usePlace>, selected: Ref<{ name: string } | null>) {
  function go(to: { ticket?: string; part?: string | null; step?: Step | null }) {
    const params: Record<string, string> = {}
    const id = to.ticket ?? place.ticketId.value
    const name = to.part === undefined ? selected.value?.name : to.part
    if (id) params.ticket = id
    if (id && name) params.part = name
    if (id && name && to.step) params.step = to.step
    void place.router.replace({ name: 'bench', params })
  }
  return {
    go,
    /** Opens a part at the step that is next for it. */
    select: (name: string) => go({ part: name, step: null }),
    openTicket: (id: string) => go({ ticket: id, part: null, step: null }),
  }
}
