import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { useIntervalFn, useSessionStorage } from '@vueuse/core'
import {
  api,
  liveRun,
  newKey,
  Problem,
  told,
  type Candidate,
  type Desk,
  type Run,
  type Sampled,
} from '../../api/client'

/** The reforming desk: the queue, the run that is watched as it happens, and what is told to it. */
export function useReform() {
  const desk = ref<Desk | null>(null)
  const candidates = ref<Candidate[] | null>(null)
  const chosen = ref<string | null>(null)
  const run = ref<Run | null>(null)
  const samples = shallowRef<Sampled[]>([])
  /** Earlier runs of the same part, to lie behind this one. */
  const earlier = shallowRef<Sampled[][]>([])
  const problem = ref<Problem | null>(null)
  const busy = ref(false)
  /** The part that a run is being prepared for. */
  const preparing = ref<string | null>(null)
  const session = useSessionStorage('owl-reform-session', newKey())
  let close: (() => void) | null = null

  async function refresh() {
    try {
      desk.value = await told(api.GET('/api/reform/desk'))
      if (!chosen.value && !preparing.value) chosen.value = desk.value.queue[0]?.id ?? null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
    }
  }
  /** What could be added; asked when something changes, not all the time. */
  async function lookRound() {
    try {
      candidates.value = await told(api.GET('/api/reform/candidates'))
    } catch (e) {
      if (!(e instanceof Problem)) throw e
    }
  }
  void lookRound()
  watch(
    () => desk.value?.queue.map((r) => r.id).join(),
    () => void lookRound(),
  )
  const looking = useIntervalFn(() => void refresh(), 3000)
  void refresh()

  watch(chosen, (id) => {
    close?.()
    close = null
    run.value = null
    samples.value = []
    earlier.value = []
    problem.value = null
    if (!id) return
    close = liveRun(
      id,
      (event) => {
        if (!run.value) void before(id, event.run.part_id)
        run.value = event.run
        if (event.samples.length) samples.value = [...samples.value, ...event.samples]
        if (event.run.phase === 'over') void refresh()
      },
      () => {
        // Somebody took it off the queue in another window.
        if (chosen.value === id) chosen.value = null
        void refresh()
      },
    )
  })
  async function before(id: string, part: string) {
    try {
      const got = await told(api.GET('/api/parts/{id}/reform', { params: { path: { id: part } } }))
      if (chosen.value === id) earlier.value = got.runs.filter((r) => r.id !== id).map((r) => r.curve.samples)
    } catch (e) {
      // The curves behind are a comfort; without them the run is shown all the same.
      if (!(e instanceof Problem)) throw e
    }
  }
  onScopeDispose(() => {
    close?.()
    looking.pause()
  })

  function watchRun(id: string) {
    preparing.value = null
    chosen.value = id
  }
  function prepare(part: string) {
    chosen.value = null
    preparing.value = part
  }

  let line: Promise<unknown> = Promise.resolve()
  const underway = new Map<string, Promise<boolean>>()
  /**
   * Tells the run something, one after the other: a stop that is pressed while something else is on its way is not
   * lost. The same thing pressed twice is told once.
   */
  function tell(what: string, work: () => Promise<Run | undefined>): Promise<boolean> {
    const known = underway.get(what)
    if (known) return known
    const mine = line.then(() => carryOut(work)).finally(() => underway.delete(what))
    underway.set(what, mine)
    line = mine
    return mine
  }
  /** What is wrong comes back for the field to show. */
  async function carryOut(work: () => Promise<Run | undefined>): Promise<boolean> {
    busy.value = true
    try {
      const now = await work()
      // The stream brings the forecast along; an answer does not. One that comes when another run is watched is not shown.
      if (now && now.id === chosen.value) run.value = { ...now, forecast: run.value?.forecast ?? null }
      problem.value = null
      void refresh()
      return true
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      problem.value = e
      return false
    } finally {
      busy.value = false
    }
  }
  const path = computed(() => ({ path: { id: chosen.value ?? '' } }))
  type Command = 'hold' | 'resume' | 'stop' | 'hot' | 'discharge' | 'speed' | 'note'
  function command(name: Command, more: { speed?: number; text?: string } = {}) {
    const params = path.value
    return tell(`${params.path.id} ${name} ${JSON.stringify(more)}`, () =>
      told(
        api.POST('/api/reform/runs/{id}/command', {
          params,
          body: { command: name, speed: more.speed ?? null, text: more.text ?? null },
        }),
      ),
    )
  }
  function start(name: string | null) {
    const params = path.value
    return tell(`${params.path.id} start ${name}`, () =>
      told(
        api.POST('/api/reform/runs/{id}/start', {
          params,
          body: { session: session.value, name },
        }),
      ),
    )
  }
  function read(key: string, volts: string, current: string) {
    const params = path.value
    return tell(key, () =>
      told(
        api.POST('/api/reform/runs/{id}/readings', {
          params,
          body: { key, volts, current: current || null },
        }),
      ),
    )
  }
  function remove() {
    const params = path.value
    return tell(`${params.path.id} remove`, async () => {
      await told(
        api
          .DELETE('/api/reform/runs/{id}', { params })
          .then((r) => ({ ...r, data: r.error ? undefined : true })),
      )
      if (chosen.value === params.path.id) chosen.value = null
      return undefined
    })
  }
  /** Takes the leakage over as a reading of the part. */
  function takeLeakage() {
    const params = path.value
    return tell(`${params.path.id} leakage`, async () => {
      await told(
        api.POST('/api/reform/runs/{id}/leakage', {
          params,
          body: { key: params.path.id || newKey() },
        }),
      )
      return undefined
    })
  }

  return {
    desk,
    candidates,
    chosen,
    run,
    samples,
    earlier,
    problem,
    busy,
    preparing,
    refresh,
    watchRun,
    prepare,
    command,
    start,
    read,
    remove,
    takeLeakage,
  }
}
export type Reform = ReturnType<typeof useReform>
