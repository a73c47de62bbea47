import { computed, nextTick, reactive, ref, useTemplateRef, watch } from 'vue'
import { api, Problem, told, type Choice, type Part, type Substitutes } from '../../api/client'
import { useDraft } from '../../components/useDraft'
import type { Bench } from '../bench/useBench'
import { goesIn } from './goesIn'
import { useSending } from './useSending'

const NOTHING = {
  description: '',
  value: '',
  tolerance: '',
  watts: '',
  volts: '',
  type_number: '',
  safety: null as Choice['entry']['safety'],
  family: null as Choice['family'],
}

export type Fit = ReturnType<typeof useFit>

/** Choosing what goes in: the choices, what is typed of it, and recording it. */
export function useFit(bench: Bench, part: () => Part) {
  const { problem, busy, wrong, send } = useSending(bench)
  const answer = ref<Substitutes | null>(null)
  const failure = ref<Problem | null>(null)
  /** Which of the choices; −1 is something else, typed by hand. */
  const picked = ref(0)
  const touched = ref(false)
  const form = reactive({ ...NOTHING })
  const measured = useDraft(`${part().id}:measured`, 0)
  const test = useDraft(`${part().id}:test`, 0)
  const bag = useDraft(`${part().id}:bag`, 0)
  const over = ref('')
  /** Why it goes in although it falls short of its place, and in what it does; for one piece, until another is chosen. */
  const despite = ref('')
  const short = ref<string | null>(null)
  /** Which change is to be proven first; the question stays while its answer is typed. */
  const asked = ref<string | null>(null)
  const choice = computed<Choice | null>(() => answer.value?.choices[picked.value] ?? null)
  /** A network that was looked for in the tool, for this part. */
  const handed = ref(bench.handed.value?.part === part().id ? bench.handed.value : null)
  bench.handed.value = null
  if (handed.value) {
    const { description, value, type_number, family } = handed.value
    picked.value = -1
    touched.value = true
    Object.assign(form, { description, value, type_number: type_number ?? '', family })
  }
  const measurable = computed(
    () => !['lamp', 'integrated circuit'].includes(choice.value?.kind ?? part().kind),
  )

  /** What was typed by hand, kept while a choice is looked at. */
  let byHand = { ...NOTHING }
  function pick(at: number) {
    if (picked.value === -1) byHand = { ...form }
    picked.value = at
    short.value = null
    despite.value = ''
    const c = answer.value?.choices[at]
    if (c) Object.assign(form, c.entry, { description: c.description, family: c.family })
    // What is typed by hand has what somebody says of it, and nothing of the choice before.
    else Object.assign(form, byHand)
  }

  async function look() {
    try {
      const at = { params: { path: { id: part().id } } }
      answer.value = await told(api.GET('/api/parts/{id}/substitutes', at))
      failure.value = null
      if (!touched.value) pick(answer.value.choices.length ? 0 : -1)
      else if (picked.value >= answer.value.choices.length) pick(0)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      if (!e.away) failure.value = e
    }
  }
  watch([() => part().version, () => bench.connected.value], look, { immediate: true })

  const measuredField = useTemplateRef<HTMLInputElement>('measuredField')
  const testField = useTemplateRef<HTMLInputElement>('testField')
  /** What is missing is where the hand goes next; a drawer that is empty now is looked into again. */
  function goToWhatIsMissing() {
    const to = (selector: string) =>
      void nextTick(() => document.querySelector<HTMLElement>(selector)?.focus())
    switch (problem.value?.field) {
      case 'test':
        return testField.value?.focus()
      case 'measured':
        return measuredField.value?.focus()
      case 'over_open':
        return to('[data-test=over]')
      case 'safety':
        return to('[data-test=safety]')
      case 'despite':
        return to('[data-test=despite]')
      case 'value':
      case 'volts':
      case 'watts':
      case 'description':
        return picked.value === -1 ? undefined : void look()
      default:
        return void look()
    }
  }

  async function fit() {
    const c = choice.value
    const pieces = c ? goesIn(c).pieces : picked.value === -1 ? (handed.value?.pieces ?? []) : []
    const content = {
      ...form,
      description: form.description.slice(0, 200),
      kind: c?.kind ?? part().kind,
      measured: measurable.value ? measured.value : '',
      test: test.value,
      bag: bag.value,
      over_open: over.value,
      despite: despite.value,
      pieces,
      version: part().version,
    }
    const done = await send(content, ({ key, confirmed }) =>
      told(
        api.POST('/api/parts/{id}/fittings', {
          params: { path: { id: part().id } },
          body: { ...content, key, confirmed },
        }),
      ),
    )
    asked.value = done ? null : (wrong('over_open') ?? asked.value)
    short.value = done ? null : (wrong('despite') ?? short.value)
    if (!done) return goToWhatIsMissing()
    for (const draft of [measured, test, bag, over, despite]) draft.value = ''
    handed.value = null
    bench.go({ step: 'prove' })
  }

  function choose(at: number) {
    touched.value = true
    pick(at)
    if (at < 0) void nextTick(() => document.querySelector<HTMLInputElement>('.else input')?.focus())
  }

  /** What goes in is to be measured before it is soldered: its field is lit until it is, or it goes in unmeasured. */
  const toMeasure = computed(() => measurable.value && measured.value === '')

  /** What comes from a drawer is fitted at once; what was bought for this is measured first, if it can be. */
  function main() {
    if (!answer.value && !failure.value) return
    const field = measuredField.value
    const measure = choice.value?.from !== 'drawers' && toMeasure.value && document.activeElement !== field
    if (measure && field) field.focus()
    else void fit()
  }

  return {
    problem,
    busy,
    wrong,
    answer,
    failure,
    picked,
    form,
    measured,
    test,
    bag,
    over,
    asked,
    despite,
    short,
    toMeasure,
    choice,
    measurable,
    measuredField,
    choose,
    fit,
    main,
  }
}
