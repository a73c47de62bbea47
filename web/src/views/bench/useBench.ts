import { ElMessage } from 'element-plus'
import { computed, inject, provide, ref, watch, type InjectionKey } from 'vue'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import {
  api,
  connected,
  isBack,
  Problem,
  told,
  type Choice,
  type Schemas,
  type Step,
  type Workshop,
} from '../../api/client'
import { speak } from '../../words/dialect'
import { words } from '../../words/en'
import { STEPS, useGoing, usePlace } from './usePlace'
import { useTicket, writtenIn } from './useTicket'
import { useDeeds } from './useDeeds'
import { useLiveRuns } from './useLiveRuns'
import { useOthers } from './useOthers'

export { STAGES, type Stage, type Tool } from './usePlace'

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
  const place = usePlace()
  const { ticketId, tool } = place
  const lying = useTicket(ticketId, place.partName)
  const { shelf, ticket, strip, missing, conflict } = lying
  const going = useGoing(place, strip)
  const workshop = ref<Workshop | null>(null)
  const loading = ref(true)
  /** A network that was found for a part, on its way to the Fit step. */
  const handed = ref<Handed | null>(null)
  /** Closed tickets are filed away, but for the one that is open. */
  const onShelf = computed(() => (shelf.value ?? []).filter((t) => !t.closed || t.id === ticketId.value))
  const step = computed<Step>(() => {
    const asked = place.askedStep.value
    const there = asked && strip.value?.steps.includes(asked)
    return there ? asked : (strip.value?.step ?? 'read')
  })
  /** Whether it is known what is in hand: a tool that begins with the part is not opened before, and what is typed in it stays. */
  const settled = computed(
    () =>
      !connected.value ||
      missing.value !== null ||
      shelf.value?.length === 0 ||
      (ticket.value !== null && (!strip.value || lying.part.value !== null)),
  )
  /** What to warn of at the places named. */
  const cautionsAt = (...at: (Step | Schemas['PlaceOfACaution'])[]) =>
    ticket.value?.cautions.filter((c) => at.includes(c.step)) ?? []
  /** What is measured with the set on wants the cautions of a live probe, and not those of an empty set. */
  const probed = computed(() => step.value === 'measure' && strip.value?.read_live === true)
  /** Whether what is being read of a part that is else taken out is read in the running set: a valve's volts at a pin. */
  const probing = ref(false)
  const cautions = computed(() =>
    cautionsAt(probed.value || (probing.value && step.value === 'measure') ? 'voltages' : step.value),
  )

  /** Rises when the voltage chart was written into by a sentence. */
  const charted = ref(0)
  /** The valve that is looked at in the chart. */
  const lookedAt = ref<string | null>(null)
  function lookAt(valve: string) {
    lookedAt.value = valve
    charted.value++
    if (place.page.value !== 'sockets') place.openStage('chart')
  }

  function move(by: number) {
    const parts = ticket.value?.parts ?? []
    const at = parts.findIndex((p) => p.id === strip.value?.id)
    const next = parts[Math.min(Math.max(at + by, 0), parts.length - 1)]
    if (next) going.select(next.name)
  }
  function moveTicket(by: number) {
    const all = onShelf.value
    const at = all.findIndex((t) => t.id === ticketId.value)
    const next = all[(at + by + all.length) % all.length]
    if (next) going.openTicket(next.id)
  }
  function moveStage(by: number) {
    if (ticket.value) place.moveStage(by)
  }

  async function refreshWorkshop() {
    workshop.value = await told(api.GET('/api/workshop'))
    speak(workshop.value.dialect.terms)
  }
  /** Everything again; a failure leaves on the screen what is there. */
  async function refresh() {
    try {
      if (!workshop.value) await refreshWorkshop()
      await lying.fetchShelf()
      const first = onShelf.value[0] ?? shelf.value?.[0]
      if (!ticketId.value && first) going.openTicket(first.id)
      else await lying.fetchTicket()
    } catch (e) {
      if (e instanceof Problem && e.status === 404) {
        missing.value = e.detail
        ticket.value = null
      } else if (!(e instanceof Problem)) throw e
    } finally {
      loading.value = false
    }
  }

  /** Runs a change and shows what it changed; a conflict is shown, other problems come back for the field to show. */
  async function change<T>(work: () => Promise<T>): Promise<{ done?: T; problem?: Problem }> {
    try {
      const done = await work()
      const written = writtenIn(done)
      if (written) lying.apply(written)
      else await refresh()
      void deeds.look()
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
  watch(
    () => strip.value?.id,
    (id) => {
      if (id !== lying.detail.value?.id) void lying.fetchPart()
    },
  )
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

  /** Rises when another bench wrote into the open ticket; and when it wrote into what belongs to all. */
  const heard = ref(0)
  const workshopHeard = ref(0)
  const others = useOthers(
    computed(() => ticket.value?.id ?? null),
    lying.position,
    {
      ticket: async () => {
        await refresh()
        heard.value++
        void deeds.look()
      },
      shelf: () => lying.fetchShelf().catch(() => undefined),
      workshop: () => {
        workshopHeard.value++
        return refreshWorkshop().catch(() => undefined)
      },
    },
  )
  const live = useLiveRuns()
  const deeds = useDeeds(ticketId, async (id) => {
    charted.value++
    await refresh()
    const part = ticket.value?.parts.find((p) => p.id === id)
    if (part) going.go({ part: part.name, step: place.askedStep.value })
  })

  return {
    workshop,
    live,
    shelf,
    onShelf,
    ticket,
    ticketId,
    strip,
    part: lying.part,
    step,
    askedStep: place.askedStep,
    probed,
    settled,
    cautions,
    probing,
    cautionsAt,
    loading,
    missing,
    conflict,
    connected,
    tool,
    handed,
    charted,
    heard,
    workshopHeard,
    others,
    deed: deeds.deed,
    lookAtDeeds: deeds.look,
    undo: () => void deeds.undo(),
    lookedAt,
    lookAt,
    card: place.card,
    openTool: place.openTool,
    steps: STEPS,
    ...going,
    move,
    page: place.page,
    stage: place.stage,
    openStage: place.openStage,
    moveStage,
    moveTicket,
    refresh,
    refreshWorkshop,
    change,
  }
}
