import { computed, ref, watch } from 'vue'
import { useSessionStorage } from '@vueuse/core'
import {
  api,
  newKey,
  Problem,
  told,
  type Identified,
  type IdentifyQuestion,
  type Outline,
} from '../../api/client'
import { useBench } from '../bench/useBench'
import { useDesk } from './useDesk'

/** Red and black on each pair of leads, both ways round, in the order in which a hand goes. */
export const WAYS = [
  ['1', '2'],
  ['1', '3'],
  ['2', '3'],
  ['2', '1'],
  ['3', '1'],
  ['3', '2'],
] as const

export interface Draft {
  typed: (string | null)[]
  gains: Record<string, string>
  celsius: string
  inCircuit: boolean
  further: string
  package: string
}
const FRESH = (): Draft => ({
  typed: [null, null, null, null, null, null],
  gains: {},
  celsius: '',
  inCircuit: false,
  further: '',
  package: '',
})

/** Six readings as they are typed, and what the server says of them. */
export function useIdentify() {
  const bench = useBench()
  const draft = useSessionStorage<Draft>(useDesk().of('identify'), FRESH())
  const at = ref(Math.max(0, draft.value.typed.indexOf(null)))
  const found = ref<Identified | null>(null)
  const problem = ref<Problem | null>(null)
  const packages = ref<Outline[]>([])
  const left = computed(() => draft.value.typed.filter((t) => t === null).length)
  const shown = computed(() => packages.value.filter((p) => p.leads.length === 3))
  const outline = computed<Outline | null>(
    () => packages.value.find((p) => p.package === draft.value.package) ?? shown.value[0] ?? null,
  )

  const number = (text: string | undefined) => {
    const t = (text ?? '').trim()
    return t === '' ? null : Number(t.replace(',', '.'))
  }
  /** The readings as they are asked about; numbers are read by the server. */
  function question(): IdentifyQuestion {
    const gains = Object.entries(draft.value.gains)
      .map(([way, text]) => ({ way, hfe: number(text) }))
      .filter((g) => g.hfe !== null && !Number.isNaN(g.hfe))
      .map((g) => ({ collector: g.way[0] ?? '', emitter: g.way[1] ?? '', hfe: g.hfe ?? 0 }))
    return {
      readings: WAYS.map(([red, black], i) => ({
        red,
        black,
        volts: null,
        typed: draft.value.typed[i] || 'OL',
      })),
      gains,
      in_circuit: draft.value.inCircuit,
      celsius: number(draft.value.celsius),
      meter_current: null,
      further: (draft.value.further || null) as IdentifyQuestion['further'],
    }
  }

  async function ask() {
    if (left.value) {
      found.value = null
      problem.value = null
      return
    }
    try {
      found.value = await told(api.POST('/api/transistors/identify', { body: question() }))
      problem.value = null
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      found.value = null
      problem.value = e.away ? null : e
      const wrong = /^readings\[(\d)\]/.exec(e.field ?? '')
      if (wrong) at.value = Number(wrong[1])
    }
  }
  watch([draft, () => bench.connected.value], () => void ask(), { deep: true, immediate: true })
  async function drawn() {
    try {
      packages.value = await told(api.GET('/api/transistors/packages'))
    } catch (e) {
      if (!(e instanceof Problem)) throw e
    }
  }
  watch(
    () => bench.connected.value,
    () => void drawn(),
    { immediate: true },
  )

  /** Takes what is typed for the reading in hand and goes to the next that is missing. */
  function take(text: string) {
    draft.value.typed[at.value] = text.trim()
    draft.value.further = ''
    const next = draft.value.typed.indexOf(null)
    at.value = next >= 0 ? next : Math.min(at.value + 1, 5)
  }
  function clear() {
    const kept = draft.value.package
    draft.value = { ...FRESH(), package: kept }
    at.value = 0
  }

  const saving = ref(false)
  let key = newKey()
  let last = ''
  /** Keeps the six readings on a part of the tray. */
  async function keep(part: string): Promise<boolean> {
    const asked = question()
    const written = JSON.stringify([part, asked])
    if (written !== last) key = newKey()
    last = written
    saving.value = true
    const { done, problem: refused } = await bench.change(() =>
      told(
        api.POST('/api/parts/{id}/junctions', {
          params: { path: { id: part } },
          body: { key, question: asked },
        }),
      ),
    )
    saving.value = false
    if (refused && !refused.away) problem.value = refused
    return done !== undefined
  }

  return { draft, at, left, found, problem, shown, outline, saving, take, clear, keep }
}
