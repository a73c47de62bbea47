import { computed, reactive, ref, watch } from 'vue'
import { api, newKey, Problem, told, type Choice, type Part, type StagePlace } from '../../api/client'
import type { Bench } from '../bench/useBench'
import { goesIn } from './goesIn'
import { useSending } from './useSending'

/** A place of the stage, with what is chosen and typed for it. */
export interface StageRow {
  place: StagePlace
  key: string
  picked: number
  measured: string
  test: string
  despite: string
  short: string | null
}

/** Fitting a whole stage: what goes into each place, what it measured, and one press for all. */
export function useStageFit(bench: Bench, part: () => Part) {
  const { problem, busy, wrong, send } = useSending(bench)
  const rows = reactive<StageRow[]>([])
  const failure = ref<string | null>(null)
  const loading = ref(true)
  const over = ref('')
  const overAsked = ref<string | null>(null)
  const choice = (r: StageRow): Choice | undefined => r.place.choices[r.picked]

  async function look() {
    try {
      const { places } = await told(api.GET('/api/parts/{id}/stage', { params: { path: { id: part().id } } }))
      const before = new Map(rows.map((r) => [r.place.part, r]))
      const fresh = { key: '', picked: 0, measured: '', test: '', despite: '', short: null }
      rows.splice(
        0,
        rows.length,
        ...places.map((place) => {
          const kept = before.get(place.part)
          const picked = Math.min(kept?.picked ?? 0, Math.max(place.choices.length - 1, 0))
          return { ...fresh, key: newKey(), ...kept, place, picked }
        }),
      )
      failure.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      // While the database is away, what is shown and typed stays.
      if (!e.away || !rows.length) failure.value = e.detail
    }
    loading.value = false
  }
  // Another part of it may have been decided meanwhile.
  watch([() => part().version, () => part().stage_to_fit.join(), () => bench.connected.value], look, {
    immediate: true,
  })

  /** What is wrong with a field of a place. */
  const wrongAt = (i: number, field: string) => wrong(`fittings[${i}].${field}`)
  /** The first place at which something is to be answered before. */
  const held = computed(() => rows.find((r) => r.place.asked) ?? null)
  const ready = computed(() => rows.length > 0 && rows.every((r) => choice(r)))

  async function fit() {
    if (!ready.value) return
    const content = rows.map((r) => {
      const c = choice(r) as Choice
      return {
        part: r.place.part,
        fitting: {
          ...goesIn(c),
          measured: r.measured,
          test: r.test,
          despite: r.despite,
          over_open: over.value,
          version: r.place.version,
          key: r.key,
        },
      }
    })
    const done = await send(content, ({ confirmed }) =>
      told(
        api.POST('/api/parts/{id}/stage', {
          params: { path: { id: part().id } },
          body: { fittings: content.map((f) => ({ ...f, fitting: { ...f.fitting, confirmed } })) },
        }),
      ),
    )
    rows.forEach((r, i) => (r.short = done ? null : (wrongAt(i, 'despite') ?? r.short)))
    overAsked.value = done ? null : (wrongAt(0, 'over_open') ?? overAsked.value)
    if (done) bench.go({ step: 'prove' })
    else if (!problem.value) void look()
  }

  return { rows, loading, failure, problem, busy, wrongAt, choice, held, ready, over, overAsked, fit }
}
