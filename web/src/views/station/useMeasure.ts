import { useStorage, watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, Problem, told, type Instrument, type Part, type Reading, type Warning } from '../../api/client'
import { useDraft } from '../../components/useDraft'
import type { Bench } from '../bench/useBench'
import { useSending } from './useSending'

type Way = Instrument['ways'][number]

/** Taking a reading: what is read, with which instrument, how the part sits, and what that cannot tell. */
export function useMeasure(bench: Bench, part: () => Part) {
  const { problem, busy, wrong, send } = useSending(bench)
  const typed = useDraft(`${part().id}:typed`, 0)
  const state = ref<Reading['state']>(part().measured?.state ?? 'in circuit')
  const hot = ref(false)
  const volts = ref('')
  const hertz = ref('')
  /** At which pin of a valve. */
  const pin = ref<number | null>(null)

  /** What is being read: the first thing that nobody has read yet, or what was chosen. */
  const chosen = ref<string | null>(null)
  const readable = computed(() => part().readable)
  const reading = computed(() => {
    const counts = part().readings.filter((r) => !r.before_fitting && !r.voided)
    const open = readable.value.find((q) => !counts.some((r) => q.quantities.includes(r.quantity)))
    return (
      readable.value.find((q) => q.called === chosen.value) ??
      open ??
      readable.value[0] ?? { called: '', quantities: [], state: null }
    )
  })

  // What is read of a valve on the tester is read out of the set, and volts at its pins in it.
  watch(
    () => [part().id, reading.value.called],
    () => {
      if (reading.value.state) state.value = reading.value.state
    },
    { immediate: true },
  )

  /** The ways of measuring it, and the one that was last used for it. */
  const ways = computed(() =>
    (bench.workshop.value?.instruments ?? [])
      .filter((i) => !i.retired)
      .flatMap((i) =>
        i.ways
          .filter((w) => reading.value.quantities.includes(w.quantity))
          .map((w) => ({ id: w.id, instrument: i, way: w, label: label(i, w) })),
      ),
  )
  const last = useStorage<Record<string, string>>('owl-ways', {})
  const keptAs = computed(() => `${part().kind}:${reading.value.called}:${part().tester_setting ?? ''}`)
  const way = computed({
    get: () => {
      const kept = ways.value.find((w) => w.id === last.value[keptAs.value])
      const belongs = ways.value.find((w) => !w.way.setting || w.way.setting === part().tester_setting)
      return kept ?? belongs ?? ways.value[0] ?? null
    },
    set: (w) => {
      if (w) last.value = { ...last.value, [keptAs.value]: w.id }
    },
  })
  const wayId = computed({
    get: () => way.value?.id ?? '',
    set: (id) => (way.value = ways.value.find((w) => w.id === id) ?? null),
  })
  const quantity = computed(() => way.value?.way.quantity ?? reading.value.quantities[0])

  /** Leakage wants volts; what is measured with alternating current has a frequency. */
  const wantsVolts = computed(
    () => reading.value.quantities.includes('leakage_current') && part().kind !== 'resistor',
  )
  const wantsHertz = computed(() => way.value?.way.mode === 'ac')
  const wantsPin = computed(() => reading.value.quantities.includes('pin_voltage'))

  const foreseen = ref<Warning[]>([])
  watchDebounced(
    [() => part().version, () => part().id, quantity, state, way, volts, hertz],
    async () => {
      const q = quantity.value
      if (!q) return
      try {
        const got = await told(
          api.POST('/api/parts/{id}/foresee', {
            params: { path: { id: part().id } },
            body: { quantity: q, state: state.value, way: way.value?.id, ...conditions() },
          }),
        )
        foreseen.value = got.warnings
      } catch (e) {
        // What stands in the fields is refused when it is sent, beside its field.
        if (!(e instanceof Problem)) throw e
        foreseen.value = []
      }
    },
    { debounce: 120, immediate: true },
  )

  function conditions() {
    return {
      test_voltage: wantsVolts.value ? volts.value : '',
      test_frequency: wantsHertz.value ? hertz.value : '',
    }
  }

  /** With what a question about the range can be answered. */
  const choices = computed(() => problem.value?.choices ?? [])

  async function take(measuredWith = ''): Promise<boolean> {
    const content = {
      typed: typed.value,
      quantity: quantity.value,
      state: state.value,
      hot: hot.value,
      way: way.value?.id,
      pin: wantsPin.value ? pin.value : null,
      ...conditions(),
    }
    const done = await send(content, ({ key, confirmed }) =>
      told(
        api.POST('/api/parts/{id}/readings', {
          params: { path: { id: part().id } },
          body: { ...content, key, confirmed, with: measuredWith },
        }),
      ),
    )
    if (done) typed.value = ''
    // The instrument was changed in another window.
    if (wrong('way')) await bench.refreshWorkshop().catch(() => undefined)
    return done !== undefined
  }

  /** Asks the instrument; what it shows stands in the form, to be looked at and taken. */
  const asking = ref(false)
  const said = ref<string | null>(null)
  const refused = ref<string | null>(null)
  async function fromMeter(): Promise<boolean> {
    const w = way.value
    if (!w || asking.value) return false
    asking.value = true
    said.value = refused.value = null
    try {
      const got = await told(
        api.POST('/api/parts/{id}/meter', {
          params: { path: { id: part().id } },
          body: {
            way: w.id,
            state: state.value,
            hot: hot.value,
            test_frequency: wantsHertz.value ? hertz.value : null,
          },
        }),
      )
      typed.value = got.typed
      wayId.value = got.way
      volts.value = got.test_voltage ?? ''
      hertz.value = got.test_frequency ?? ''
      said.value = got.words
      return true
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      refused.value = e.detail
      return false
    } finally {
      asking.value = false
    }
  }
  watch([typed, reading, () => part().id], () => {
    if (typed.value === '') said.value = null
  })

  return {
    asking,
    said,
    refused,
    fromMeter,
    problem,
    choices,
    busy,
    wrong,
    typed,
    state,
    hot,
    volts,
    hertz,
    pin,
    wantsPin,
    chosen,
    readable,
    reading,
    ways,
    wayId,
    way,
    wantsVolts,
    wantsHertz,
    foreseen,
    take,
  }
}

function label(i: Instrument, w: Way): string {
  return i.ways.length > 1 ? `${i.name} · ${w.name}` : i.name
}
