import { useSessionStorage, watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, newKey, Problem, told, type Understanding } from '../../api/client'
import type { Bench } from './useBench'

/** What is typed, how it is understood while it is typed, and taking it. */
export function useOwlLine(bench: Bench) {
  // What was typed outlives a reload of the page. It stays at the stage where it was typed, and does not follow to another.
  const lines = useSessionStorage<Record<string, string>>('owl-lines', {})
  const here = computed(() => `${bench.ticketId.value ?? ''}:${bench.page.value}`)
  const text = computed({
    get: () => lines.value[here.value] ?? '',
    set: (now) => {
      const others = Object.entries(lines.value).filter(([at]) => at !== here.value)
      lines.value = Object.fromEntries(now ? [...others, [here.value, now]] : others)
    },
  })
  const understood = ref<Understanding | null>(null)
  /** The sentence that it is about: while one types, an older one. */
  const about = ref('')
  const problem = ref<string | null>(null)
  const question = ref<string | null>(null)
  /** With what the question can be answered, beside a plain yes. */
  const choices = ref<string[]>([])
  const taken = ref<string | null>(null)
  /** The deed that it was, as long as it is the last: that is what its undo takes back. */
  const deed = ref<number | null>(null)
  const busy = ref(false)
  /** The key of this sentence: sending it again after a lost answer takes it once. */
  let key = newKey()
  let latest = 0
  /** A sentence whose Enter came while another one was on its way. */
  let waiting: string | null = null

  /** How the sentence is understood: shown, unless another one has been typed since. */
  async function understand(): Promise<Understanding | null> {
    const id = bench.ticketId.value
    if (!text.value.trim()) {
      understood.value = null
      return null
    }
    const mine = ++latest
    const asked = text.value
    try {
      const body = { text: asked, selected: bench.strip.value?.id }
      const got = await told(
        id
          ? api.POST('/api/tickets/{id}/understand', { params: { path: { id } }, body })
          : api.POST('/api/understand', { body }),
      )
      if (mine === latest) {
        understood.value = got
        about.value = asked
      }
      return got
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine === latest) understood.value = null
      if (!e.away) problem.value = e.detail
      return null
    }
  }

  watch(text, (now) => {
    key = newKey()
    problem.value = null
    question.value = null
    choices.value = []
    if (now) taken.value = null
  })
  watchDebounced(
    [text, bench.ticketId, () => bench.strip.value?.id, () => bench.connected.value],
    understand,
    {
      debounce: 90,
      immediate: true,
    },
  )

  async function take(measuredWith = '') {
    const id = bench.ticketId.value
    if (!text.value.trim()) return
    // Enter on the next sentence while the last one is still on its way: it goes out behind it.
    if (busy.value) {
      waiting = text.value
      return
    }
    busy.value = true
    const sent = text.value
    try {
      const meant = await understand()
      if (!bench.connected.value) return
      const part = bench.ticket.value?.parts.find((p) => p.id === meant?.part_id)
      const body = {
        text: sent,
        selected: bench.strip.value?.id,
        key,
        version: part?.version,
        confirmed: question.value !== null,
        with: measuredWith,
      }
      const { done, problem: wrong } = await bench.change(() =>
        told(
          id
            ? api.POST('/api/tickets/{id}/say', { params: { path: { id } }, body })
            : api.POST('/api/say', { body }),
        ),
      )
      // An answer to something that has been typed over since is not about what stands there now.
      if (text.value !== sent) return
      if (done) {
        const part = bench.ticket.value?.parts.find((p) => p.id === done.part_id)
        text.value = ''
        taken.value = done.in_words
        deed.value = null
        void bench.lookAtDeeds().then(() => (deed.value = bench.deed.value?.id ?? null))
        if (part) bench.go({ part: part.name, step: done.step ?? null })
        if (done.valve) bench.lookAt(done.valve)
        if (done.ticket) bench.openTicket(done.ticket)
        // The answer tells of the first part; the others are on the tray as well.
        if (done.also.length) await bench.refresh()
      } else if (wrong?.ask) {
        question.value = wrong.detail
        choices.value = wrong.choices
      } else if (wrong && !wrong.away && wrong.status !== 409) {
        problem.value = wrong.detail
      }
    } finally {
      busy.value = false
      const next = waiting
      waiting = null
      if (next !== null && next === text.value) void take()
    }
  }

  /** Meanings of which one is to be chosen, of the sentence as it stands. */
  const which = computed(() => (about.value === text.value ? (understood.value?.which ?? []) : []))
  const tone = computed(() => {
    if (!bench.connected.value) return 'away'
    if (question.value ?? understood.value?.question ?? which.value.length) return 'asks'
    if (problem.value ?? understood.value?.problem) return 'wrong'
    return 'plain'
  })

  return { text, understood, which, problem, question, choices, taken, deed, take, tone }
}
