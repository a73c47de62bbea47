import { computed, watch } from 'vue'
import { api, Problem, told, type Part } from '../../api/client'
import { useDraft } from '../../components/useDraft'
import type { Bench } from '../bench/useBench'
import { useMarking } from '../reader/useMarking'

/** The marking of a part on the tray: weighed with its sheet and its meter, kept as a draft, put on it. */
export function usePartMarking(bench: Bench, part: () => Part) {
  /** What the part shows, as it would be typed here. */
  const onPart = computed(() => {
    const p = part()
    if (p.marking) return p.marking
    return p.bands.length && p.family !== 'wirewound' ? p.bands.join(' ') : (p.marked?.text ?? '')
  })
  const draft = useDraft(`${part().id}:marking`, part().version, onPart.value)
  const marking = useMarking(
    () => ({
      part: part().kind,
      measured: part().measured?.measured?.value,
      expected: part().sheet?.value,
    }),
    { text: draft.value, scheme: part().mark?.scheme ?? null, colours: [...part().bands] },
  )
  watch(marking.text, (now) => (draft.value = now))
  /** Whether the likeliest reading is another than what is on the part. */
  const dirty = computed(() => {
    const f = marking.first.value
    const other = f !== null && (f.value ?? null) !== (part().marked?.value ?? null)
    return marking.text.value.trim() !== onPart.value.trim() || other
  })

  /** What was asked before a mark that was known becomes another; the next press on the same confirms it. */
  let asked = ''

  /** Puts a reading of the marking on the part. */
  async function use(reading: number) {
    if (!marking.answer.value?.[reading]) return
    const mark = { question: { ...marking.question.value }, reading }
    const confirmed = asked === JSON.stringify(mark)
    const { done, problem } = await bench.change(() =>
      told(
        api.PATCH('/api/parts/{id}', {
          params: { path: { id: part().id } },
          body: { mark, confirmed, version: part().version },
        }),
      ),
    )
    asked = problem?.ask ? JSON.stringify(mark) : ''
    if (done) {
      bench.go({ step: done.steps.includes('measure') ? 'measure' : 'read' })
    } else if (problem && problem.status !== 409 && !problem.away) {
      marking.wrong.value = new Problem(problem.status, problem.detail, problem.field)
    }
  }

  return { marking, dirty, use }
}
