import { nextTick } from 'vue'
import type { Part } from '../../api/client'
import type { Bench } from '../bench/useBench'

const GROUP = { cause: '.cause', disagreement: '.disagreement', suspects: '.suspects' }

/** What is to be answered before something is fitted, or put to the proof: leads there. */
export function useFirstAsked(bench: Bench, part: () => Part) {
  function first() {
    const asked = part().first_asked
    const [other] = asked?.parts ?? []
    if (other) return bench.select(other)
    const group = asked ? GROUP[asked.question] : ''
    const answer = document.querySelector<HTMLElement>(`.questions ${group} [data-test=answer]`)
    if (answer?.getAttribute('aria-expanded') !== 'true') answer?.click()
    void nextTick(() =>
      document.querySelector<HTMLElement>(`.questions ${group} :is(input, .el-button)`)?.focus(),
    )
  }
  return { first }
}
