import { computed, reactive, ref, watch } from 'vue'
import { api, newKey, told, type DrawnFeed, type Feeds } from '../../api/client'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import { useStage } from './useStage'

/** The feeds of the open ticket, one of them in hand. */
export function useFeeds() {
  const bench = useBench()
  /** The set of readings that is held against the feeds; the newest unless another is chosen. */
  const run = ref<string | null>(null)
  const stage = useStage((id) =>
    told(
      api.GET('/api/tickets/{id}/feeds', {
        params: { path: { id }, query: { run: run.value ?? undefined } },
      }),
    ),
  )
  const { data, ticket } = stage
  async function hold(next: string) {
    run.value = next
    await stage.fetch()
    const now = data.value?.feeds.find((f) => f.id === chosen.value)
    if (now) open(now)
  }
  const sending = useSending(bench)
  const chosen = ref<string | null>(null)
  const feed = computed<DrawnFeed | null>(() => data.value?.feeds.find((f) => f.id === chosen.value) ?? null)
  const draft = reactive({
    id: null as string | null,
    version: null as number | null,
    name: '',
    rail: '',
    parts: '',
    nodes: [] as {
      node: string
      sheet: string
      measured: string
      from_chart: boolean
      sheet_from_chart: boolean
    }[],
  })
  const accused = ref<number | null>(null)

  function open(f: DrawnFeed) {
    chosen.value = f.id
    accused.value = f.answer?.suspects.length ? 0 : null
    Object.assign(draft, {
      id: f.id,
      version: f.version,
      name: f.name,
      rail: f.rail.text,
      parts: f.told,
      nodes: f.nodes.map((n) => ({
        node: n.node,
        sheet: n.node === 'rail' ? f.rail.text : n.sheet_from_chart ? '' : (n.sheet?.text ?? ''),
        measured: n.from_chart ? '' : (n.measured?.text ?? ''),
        from_chart: n.from_chart,
        sheet_from_chart: n.sheet_from_chart,
      })),
    })
  }
  function begin(fromTray: boolean) {
    const d = data.value
    chosen.value = null
    accused.value = null
    Object.assign(draft, {
      id: null,
      version: null,
      name: fromTray ? 'from the tray' : '',
      rail: fromTray ? (d?.tray_rail?.text ?? '') : '',
      parts: fromTray ? (d?.from_tray ?? '') : '',
      nodes: fromTray
        ? (d?.tray_nodes ?? []).map((n) => ({
            node: n.node,
            sheet: n.sheet?.text ?? '',
            measured: '',
            from_chart: false,
            sheet_from_chart: false,
          }))
        : [],
    })
  }
  watch(data, (d: Feeds | null, before: Feeds | null) => {
    if (!d || before) return
    const first = d.feeds.at(-1)
    if (first) open(first)
    else begin(Boolean(d.from_tray))
  })
  async function save() {
    const id = ticket.value
    if (!id) return
    const key = draft.id ?? newKey()
    const nodes = draft.nodes
      .filter((n) => n.sheet || n.measured)
      .map((n) => ({ node: n.node, sheet: n.node === 'rail' ? '' : n.sheet, measured: n.measured }))
    const body = {
      id: key,
      version: draft.version,
      name: draft.name,
      rail: draft.rail,
      parts: draft.parts,
      nodes,
    }
    const done = await sending.send(body, () =>
      told(api.PUT('/api/tickets/{id}/feeds', { params: { path: { id } }, body })),
    )
    if (!done) return
    data.value = done
    const now = done.feeds.find((f) => f.id === key)
    if (now) open(now)
  }
  async function remove() {
    const id = draft.id
    if (!id) return
    const done = await sending.send({ remove: id }, () =>
      told(api.DELETE('/api/feeds/{id}', { params: { path: { id } } })),
    )
    if (!done) return
    data.value = done
    const next = done.feeds.at(-1)
    if (next) open(next)
    else begin(Boolean(done.from_tray))
  }
  return { ...stage, hold, feed, draft, accused, sending, open, begin, save, remove }
}
