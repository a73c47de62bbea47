import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, Problem, told, type Colour, type Meaning, type Part } from '../../api/client'
import { useDraft } from '../../components/useDraft'
import type { Bench } from '../bench/useBench'

/** Reading a marking: text and drawn bands follow each other, the server says what they mean. */
export function useReader(bench: Bench, part: () => Part) {
  const text = ref('')
  const bands = ref<Colour[]>([...part().bands])
  const chosen = ref<number | null>(null)
  const answer = ref<Meaning[] | null>(null)
  const wrong = ref<string | null>(null)
  /** Whether the last change came from the bands or from the text. */
  const by = ref<'text' | 'bands'>('text')
  const colours = computed(() => bench.workshop.value?.words.colours ?? [])
  /** What the part shows, as it would be typed here. */
  const onPart = computed(() => {
    const p = part()
    if (p.marking) return p.marking
    return p.bands.length && p.family !== 'wirewound' ? p.bands.join(' ') : (p.marked?.text ?? '')
  })
  const draft = useDraft(`${part().id}:marking`, part().version, onPart.value)
  text.value = draft.value
  watch(text, (now) => (draft.value = now))
  const dirty = computed(() => text.value.trim() !== onPart.value.trim())

  let latest = 0
  async function read() {
    const mine = ++latest
    const expected = part().sheet?.value
    const measured = part().measured?.measured?.value
    if (!text.value.trim()) {
      answer.value = null
      wrong.value = null
      if (by.value === 'text') bands.value = []
      return
    }
    try {
      const body = by.value === 'bands' ? { colours: [...bands.value] } : { text: text.value }
      const got = await told(api.POST('/api/decode', { body: { ...body, expected, measured } }))
      if (mine !== latest) return
      answer.value = got.readings
      wrong.value = null
      if (by.value === 'text') bands.value = got.readings[0]?.bands ?? []
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine !== latest || e.away) return
      answer.value = null
      wrong.value = e.detail
    }
  }
  watchDebounced([text, () => part().sheet?.value, () => bench.connected.value], read, {
    debounce: 90,
    immediate: true,
  })
  watch(text, (now) => {
    if (now !== bands.value.join(' ')) by.value = 'text'
  })

  function choose(band: number) {
    chosen.value = Math.min(band, bands.value.length)
  }
  function painted(next: Colour[]) {
    by.value = 'bands'
    bands.value = next
    text.value = next.join(' ')
  }
  /** Colours the chosen band, or adds one, and goes on to the next. */
  function paint(colour: Colour) {
    const at = chosen.value ?? bands.value.length
    const next = [...bands.value]
    next[at] = colour
    painted(next.slice(0, 6))
    chosen.value = Math.min(at + 1, 5)
  }
  function takeAway() {
    if (chosen.value === null) return
    const at = Math.min(chosen.value, bands.value.length - 1)
    painted(bands.value.filter((_, i) => i !== at))
    chosen.value = bands.value.length ? Math.max(0, Math.min(at, bands.value.length - 1)) : null
  }

  /** Puts a reading of the marking on the part. */
  async function use(reading: number) {
    if (!answer.value?.[reading]) return
    const body =
      by.value === 'bands' ? { colours: [...bands.value], reading } : { marking: text.value, reading }
    const { done, problem } = await bench.change(() =>
      told(
        api.PATCH('/api/parts/{id}', {
          params: { path: { id: part().id } },
          body: { ...body, version: part().version },
        }),
      ),
    )
    if (done) {
      bench.go({ step: 'measure' })
    } else if (problem && problem.status !== 409 && !problem.away) wrong.value = problem.detail
  }

  return { text, bands, chosen, answer, wrong, colours, dirty, choose, paint, takeAway, use }
}
