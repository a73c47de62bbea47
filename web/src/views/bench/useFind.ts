import { computed, ref, watch } from 'vue'
import { refDebounced } from '@vueuse/core'
import { api, Problem, told, type Schemas } from '../../api/client'
import { words } from '../../words/en'
import { useWorkshopPage, WORKSHOP_PAGES, type WorkshopPage } from '../workshop/pages'
import { TOOLS } from './tools'
import { STAGES, type Bench } from './useBench'

/** Something that can be chosen: where it belongs, what it is, a word beside it, and what choosing it does. */
export interface Choosable {
  group: string
  label: string
  note: string
  key?: string
  choose: () => void
}
/** What else the bench can do, by the sheet that it opens. */
export type Sheet = 'new' | 'edit' | 'keys'

/** One field that finds anything: what the server knows by its name, and what the bench can do. */
export function useFind(bench: Bench, open: (sheet: Sheet) => void) {
  const typed = ref('')
  const asked = refDebounced(typed, 120)
  const found = ref<Schemas['FoundView'] | null>(null)
  const problem = ref<Problem | null>(null)
  const w = words.find
  const workshopPage = useWorkshopPage()
  function workshop(page: WorkshopPage, which?: string) {
    workshopPage.value = page
    void bench.openTool('workshop', which)
  }

  /** What was typed when the answer that is shown was asked for; nothing before the first. */
  const answered = ref<string | null>(null)
  async function look() {
    const q = asked.value.trim()
    const answer = await told(
      api.GET('/api/find', { params: { query: { q, ticket: bench.ticketId.value ?? undefined } } }),
    )
      .then((got) => ({ got, wrong: null }))
      .catch((e: unknown) => {
        if (e instanceof Problem) return { got: null, wrong: e }
        throw e
      })
    // Whoever types on has asked something else by now.
    if (q !== asked.value.trim()) return
    found.value = answer.got
    problem.value = answer.wrong
    answered.value = q
  }
  watch(asked, () => void look(), { immediate: true })

  const deeds = computed<Choosable[]>(() => [
    ...(bench.ticket.value
      ? STAGES.map((s) => ({
          group: w.deeds,
          label: words.job.stages[s],
          note: w.stage,
          choose: () => bench.openStage(s),
        }))
      : []),
    ...TOOLS.map((t) => ({
      group: w.deeds,
      label: t.label,
      note: w.tool,
      key: t.key,
      choose: () => void bench.openTool(t.tool),
    })),
    ...WORKSHOP_PAGES.map((p) => ({
      group: w.deeds,
      label: p.label,
      note: words.workshop.open,
      choose: () => workshop(p.name),
    })),
    { group: w.deeds, label: words.shelf.add, note: '', key: 'N', choose: () => open('new') },
    ...(bench.ticket.value
      ? [
          {
            group: w.deeds,
            label: w.edit,
            note: bench.ticket.value.name,
            key: 'E',
            choose: () => open('edit'),
          },
        ]
      : []),
    { group: w.deeds, label: words.keys.title, note: '', key: '?', choose: () => open('keys') },
  ])
  /** The deeds whose name has all words; without words only the tickets wait to be chosen. */
  const fitting = computed(() => {
    const wanted = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
    if (wanted.length === 0) return []
    return deeds.value.filter((d) =>
      wanted.every((word) => `${d.label} ${d.note}`.toLowerCase().includes(word)),
    )
  })
  const all = computed<Choosable[]>(() => {
    const f = found.value
    const named = [
      ...(f?.tickets ?? []).map((t) => ({
        group: typed.value.trim() ? w.tickets : w.waiting,
        label: t.name,
        note: t.left,
        choose: () => bench.openTicket(t.id),
      })),
      ...(f?.parts ?? []).map((p) => ({
        group: w.parts,
        label: p.name,
        note: `${p.what} · ${p.set}`,
        choose: () => bench.go({ ticket: p.ticket, part: p.name, step: null }),
      })),
    ]
    const further = [
      ...(f?.lots ?? []).map((l) => ({
        group: w.lots,
        label: l.description,
        note: `${l.count} × ${l.place}`,
        choose: () => void bench.openTool('drawers', typed.value.trim()),
      })),
      ...(f?.rules ?? []).map((r) => ({
        group: w.rules,
        label: `${r.number} ${r.title}`,
        note: '',
        choose: () => workshop('rules', r.number),
      })),
    ]
    return [...named, ...fitting.value, ...further]
  })
  /** Whether what is shown is what was found for what stands in the field. */
  const settled = computed(() => answered.value === typed.value.trim())
  return { typed, problem, all, settled }
}
