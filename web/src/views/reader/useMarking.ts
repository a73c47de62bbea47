import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import {
  api,
  connected,
  Problem,
  told,
  type Colour,
  type DecodeQuestion,
  type Meaning,
  type PartKind,
  type Scheme,
  type SchemeInfo,
} from '../../api/client'
import { shapeOfReading, type Shape } from '../../drawing/shapes'

/** What is known of the part beside its marking. */
export interface Known {
  part: PartKind | null
  measured?: number | null
  expected?: number | null
  measuredText?: string
  expectedText?: string
}

/** The schemes are the same for every marking: asked for once. */
const schemes = ref<SchemeInfo[]>([])
let asked = false
async function ask() {
  if (asked) return
  asked = true
  try {
    const got = await told(api.GET('/api/schemes'))
    schemes.value = got.schemes
  } catch (e) {
    asked = false
    if (!(e instanceof Problem)) throw e
  }
}

export type Marking = ReturnType<typeof useMarking>

/** Reading a marking: text and drawing follow each other, the server says what they mean. */
export function useMarking(
  known: () => Known,
  start: { text: string; scheme: Scheme | null; colours: Colour[] },
) {
  const text = ref(start.text)
  const colours = ref<Colour[]>([...start.colours])
  /** How the colours are to be read; null: every way that fits. */
  const scheme = ref<Scheme | null>(start.scheme)
  const wide = ref(false)
  const chosen = ref<number | null>(null)
  const answer = ref<Meaning[] | null>(null)
  const wrong = ref<Problem | null>(null)
  const reading = ref(false)
  /** Whether the last change came from the drawing or from the text. */
  const by = ref<'text' | 'drawing'>('text')

  const first = computed(() => answer.value?.[0] ?? null)
  const info = computed(() => schemes.value.find((s) => s.scheme === (scheme.value ?? 'bands')))
  const offered = computed(() => schemes.value.filter((s) => !known().part || s.part === known().part))
  /** The longest order of the scheme names the places that can be clicked. */
  const order = computed(() => {
    const orders = info.value?.orders ?? []
    const exact = orders.find((o) => o.places.length === colours.value.length)
    return (
      exact ??
      orders.reduce(
        (a, b) => (b.places.length > a.places.length ? b : a),
        orders[0] ?? { code: '', places: [] },
      )
    )
  })
  const most = computed(() => Math.max(0, ...(info.value?.orders ?? []).map((o) => o.places.length)))
  const least = computed(() => {
    const counts = (info.value?.orders ?? []).map((o) => o.places.length).filter((n) => n > 1)
    return counts.length ? Math.min(...counts) : 0
  })
  /** How the part is drawn: by the scheme, or by what the print says it is. */
  const shape = computed<Shape>(() => {
    const f = first.value
    if (scheme.value) return scheme.value
    if (by.value === 'drawing' || !f) return 'bands'
    if (f.scheme) return f.scheme
    return shapeOfReading(f.part, f.code, f.family ?? null, f.sections.length > 0)
  })
  /** What stands below each colour: only where the reading takes the colours as they are drawn. */
  const under = computed(() => {
    const bands = first.value?.bands
    if (!bands) return []
    const same =
      bands.length >= colours.value.length && colours.value.every((c, i) => c === bands[i] || c === 'none')
    return same ? first.value.band_words : []
  })

  const question = computed<DecodeQuestion>(() => {
    const k = known()
    const part = k.part ?? (scheme.value ? info.value?.part : null)
    const q: DecodeQuestion = { part, wide_first: wide.value }
    if (by.value === 'drawing') q.colours = [...colours.value]
    else q.text = text.value
    if (scheme.value) q.scheme = scheme.value
    if (k.measured != null) q.measured = k.measured
    if (k.expected != null) q.expected = k.expected
    if (k.measuredText?.trim()) q.measured_text = k.measuredText
    if (k.expectedText?.trim()) q.expected_text = k.expectedText
    return q
  })

  let latest = 0
  async function read() {
    void ask()
    const mine = ++latest
    const empty = by.value === 'drawing' ? colours.value.length === 0 : !text.value.trim()
    if (empty) {
      answer.value = null
      wrong.value = null
      if (by.value === 'text') colours.value = []
      return
    }
    reading.value = true
    try {
      const got = await told(api.POST('/api/decode', { body: question.value }))
      if (mine !== latest) return
      answer.value = got.readings
      wrong.value = null
      if (by.value === 'text') {
        colours.value = got.seen ?? []
        // Print has no colours to be read by a body's code.
        if (!got.seen) scheme.value = null
        // Print on a resistor is drawn as the bands that it would have.
        const f = got.readings[0]
        if (!got.seen && f?.part === 'resistor' && shapeOfReading(f.part, f.code, null, false) === 'bands') {
          colours.value = f.bands ?? []
        }
      }
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (mine !== latest || e.away) return
      if (by.value === 'text' && question.value.scheme) {
        // Typed over with colours of another body: the drawing follows the typing.
        scheme.value = null
        return
      }
      // A measured value that cannot be read is no reason to forget what the marking says.
      if (e.field?.startsWith('measured') !== true && e.field?.startsWith('expected') !== true)
        answer.value = null
      wrong.value = e
    } finally {
      if (mine === latest) reading.value = false
    }
  }
  watchDebounced([() => JSON.stringify(question.value), connected], read, { debounce: 90, immediate: true })
  watch(text, (now) => {
    if (now !== colours.value.join(' ')) by.value = 'text'
  })

  function choose(place: number) {
    chosen.value = Math.min(place, colours.value.length, most.value - 1)
  }
  function drawn(next: Colour[]) {
    by.value = 'drawing'
    colours.value = next
    text.value = next.join(' ')
  }
  /** Colours the chosen place, or adds one, and goes on to the next. */
  function paint(colour: Colour) {
    // What was typed is drawn as the body that it reads like; painting it goes on with that body.
    if (by.value === 'text' && first.value?.scheme) scheme.value = first.value.scheme
    const at = chosen.value ?? colours.value.length
    const next = [...colours.value]
    next[at] = colour
    drawn(next.slice(0, most.value))
    chosen.value = Math.min(at + 1, most.value - 1)
  }
  function takeAway() {
    const at = Math.min(chosen.value ?? colours.value.length - 1, colours.value.length - 1)
    if (at < 0) return
    drawn(colours.value.filter((_, i) => i !== at))
    chosen.value = Math.max(0, at - 1)
  }
  function clear() {
    drawn([])
    text.value = ''
    chosen.value = null
    answer.value = null
    wrong.value = null
  }
  /** Another body: its colours are read by its own code, from the first one on. */
  function take(next: Scheme | null) {
    if (next !== scheme.value && by.value === 'text' && !answer.value?.some((m) => m.scheme)) {
      colours.value = []
      text.value = ''
    }
    scheme.value = next
    by.value = 'drawing'
    chosen.value = Math.min(colours.value.length, Math.max(0, most.value - 1))
    if (colours.value.length > most.value) drawn(colours.value.slice(0, most.value))
  }

  return {
    text,
    colours,
    scheme,
    wide,
    chosen,
    answer,
    first,
    wrong,
    reading,
    shape,
    under,
    order,
    offered,
    most,
    least,
    question,
    choose,
    paint,
    takeAway,
    clear,
    take,
  }
}
