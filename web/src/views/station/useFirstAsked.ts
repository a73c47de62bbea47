import { nextTick } from 'vue'
import type { Part } from '../../api/client'
import type { Bench } from '../bench/useBench'

/** What is to be answered before something is fitted, or put to the proof: leads there. */
export function useFirstAsked(bench: Bench, part: () => Part) {
  function first() {
    const asked = part().first_asked
    const [other] = asked?.parts ?? []
    if (other) return bench.select(other)
    const group = asked?.question === 'cause' ? '.cause' : '.disagreement'
    const answer = document.querySelector<HTMLElement>(`.questions ${group} [data-test=answer]`)
    if (answer?.getAttribute('aria-expanded') !== 'true') answer?.click()
    void nextTick(() =>
      document.querySelector<HTMLElement>(`.questions ${group} :is(input, .el-button)`)?.focus(),
    )
  }
  return { first }
}
