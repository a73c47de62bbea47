import { computed, ref, watch } from 'vue'
import { api, newKey, Problem, told, type Schemas, type VoltageChart } from '../../api/client'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import { useSockets } from './useSockets'
import { useStage } from './useStage'

/** The chart of the open ticket: two sets beside each other, and the one that is being read now. */
export function useChart() {
  const bench = useBench()
  const left = ref<string | null>(null)
  const right = ref<string | null>(null)
  const stage = useStage((id) =>
    told(
      api.GET('/api/tickets/{id}/chart', {
        params: {
          path: { id },
          query: { before: left.value ?? undefined, after: right.value ?? undefined },
        },
      }),
    ),
  )
  const { data, ticket, fetch } = stage
  const sending = useSending(bench)
  watch([left, right], () => void fetch())
  const board = useSockets()
  /** The parts at each point of the chart. */
  const hangs = computed(() => {
    const pins = (board.data.value?.sockets ?? []).flatMap((s) => s.pins)
    return new Map(pins.map((p) => [p.point, p.parts]))
  })
  /** Heaters are folded away until they are wanted. */
  const heaters = ref(false)
  const points = computed(() =>
    (data.value?.points ?? []).filter((p) => heaters.value || !p.heater || p.id === selected.value),
  )
  const folded = computed(() => (data.value?.points ?? []).filter((p) => p.heater).length)

  /** The set that readings go into: the right one, or the only one. */
  const writing = computed(() => {
    const c = data.value
    return c?.runs.find((r) => r.id === (c.after ?? c.before)) ?? null
  })
  const selected = ref<string | null>(null)
  const point = computed(() => data.value?.points.find((p) => p.id === selected.value) ?? null)
  async function refreshed(work: () => Promise<VoltageChart>, content: unknown) {
    const done = await sending.send(content, work)
    if (done) await fetch()
    return done
  }
  // A sentence of the line wrote into the chart, or asks to look at a valve.
  watch(bench.charted, () => void fetch())
  watch(
    [bench.lookedAt, data],
    ([valve, chart]) => {
      const first = chart?.points.find((p) => p.at.toUpperCase() === valve)
      if (!first) return
      selected.value = first.id
      bench.lookedAt.value = null
    },
    { immediate: true },
  )
  const path = () => ({ path: { id: ticket.value ?? '' } })

  /** What was typed at points and is not taken yet, in the set that is read; and what is wrong with it. */
  const typed = ref(new Map<string, string>())
  /** What stood there when it was begun to be typed: where another bench wrote since, both are shown. */
  const seen = new Map<string, string>()
  function stands(pointId: string) {
    const p = data.value?.points.find((q) => q.id === pointId)
    return (data.value?.after ? p?.after : p?.before)?.volts.text ?? ''
  }
  function type(pointId: string, text: string) {
    if (!seen.has(pointId)) seen.set(pointId, stands(pointId))
    typed.value.set(pointId, text)
  }
  const refused = ref(new Map<string, string>())
  let queue: Promise<void> = Promise.resolve()
  const sent = new Map<string, string>()
  /** Sends what was typed at a point, after what was typed before it: the hand goes on at once. */
  function write(pointId: string) {
    const run = writing.value
    const volts = typed.value.get(pointId)
    if (!run || volts === undefined || sent.get(pointId) === volts) return
    sent.set(pointId, volts)
    queue = queue.then(async () => {
      try {
        await told(
          api.PUT('/api/chart/runs/{id}/readings', {
            params: { path: { id: run.id } },
            body: { point: pointId, volts, seen: seen.get(pointId) },
          }),
        )
        refused.value.delete(pointId)
        void bench.lookAtDeeds()
        await fetch()
        if (typed.value.get(pointId) === volts) {
          typed.value.delete(pointId)
          seen.delete(pointId)
        } else seen.set(pointId, stands(pointId))
      } catch (e) {
        if (!(e instanceof Problem)) throw e
        refused.value.set(pointId, e.detail)
        if (e.status === 409) {
          bench.conflict.value = { detail: e.detail, changed: e.changed }
          // Both are on the screen now: what is sent next is sent upon that.
          await fetch()
          seen.set(pointId, stands(pointId))
        }
      } finally {
        sent.delete(pointId)
      }
    })
  }
  // What was typed while nobody answered goes out once somebody does.
  watch(bench.connected, (up) => {
    if (up) for (const id of [...typed.value.keys()]) write(id)
  })
  async function putRun(form: { id: string | null; name: string; line: string; meter: string }) {
    const id = form.id ?? newKey()
    const body = { ...form, id }
    const done = await refreshed(
      () => told(api.PUT('/api/tickets/{id}/chart/runs', { params: path(), body })),
      body,
    )
    if (done && !form.id) {
      right.value = done.runs.length > 1 ? id : null
      await fetch()
    }
    return done
  }
  const addValve = (form: { at: string; valve: string; board: string }) =>
    refreshed(() => told(api.POST('/api/tickets/{id}/chart/valves', { params: path(), body: form })), {
      valve: form,
    })
  async function putPoint(
    form: {
      id: string | null
      at: string
      pin: number | null
      valve: string
      note: string
      sheet: string
      fed_through: string
      heater: boolean
      steady: boolean
      pair: string
    },
    seen: Schemas['PointSeen'] | null,
  ) {
    const body = { ...form, id: form.id ?? newKey(), seen }
    return refreshed(() => told(api.PUT('/api/tickets/{id}/chart/points', { params: path(), body })), {
      ...body,
      at_time: Date.now(),
    })
  }
  const removePoint = (id: string) =>
    refreshed(() => told(api.DELETE('/api/chart/points/{id}', { params: { path: { id } } })), { remove: id })

  return {
    ...stage,
    left,
    right,
    drawings: board.drawings,
    hangs,
    heaters,
    points,
    folded,
    writing,
    selected,
    point,
    typed,
    type,
    refused,
    write,
    putRun,
    addValve,
    putPoint,
    removePoint,
    sending,
  }
}
export type UseChart = ReturnType<typeof useChart>
