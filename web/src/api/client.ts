import createClient from 'openapi-fetch'
import { ref } from 'vue'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Card = Schemas['CardView']
export type CardName = Card['name']
export type DecodeQuestion = Schemas['DecodeQuestion']
export type Amount = Schemas['Amount']
export type Changed = Schemas['Changed']
export type Choice = Schemas['ChoiceView']
export type Combine = Schemas['CombineAnswer']
export type CombineQuestion = Schemas['CombineQuestion']
export type Drawers = Schemas['DrawersView']
export type Imported = Schemas['ImportView']
export type Lot = Schemas['LotView']
export type Network = Schemas['NetworkView']
export type Quantity = Schemas['Quantity']
export type RectifierAnswer = Schemas['RectifierAnswer']
export type ShareAnswer = Schemas['ShareAnswer']
export type Shopping = Schemas['ShoppingView']
export type Feasibility = Schemas['FeasibilityView']
export type Shown = Schemas['ShownView']
export type Tree = Schemas['TreeView']
export type Bank = Schemas['BankView']
export type BankPart = Schemas['BankPartView']
export type Banks = Schemas['BanksView']
export type Band = Schemas['BandView']
export type Sampled = Schemas['SampleView']
export type Candidate = Schemas['Candidate']
export type Desk = Schemas['Desk']
export type Other = Schemas['OtherView']
export type BenchEvent = Schemas['BenchEvent']
export type Live = Schemas['LiveEvent']
export type OfPart = Schemas['OfPart']
export type PlanAnswer = Schemas['PlanAnswer']
export type PlanQuestion = Schemas['PlanQuestion']
export type Run = Schemas['RunView']
export type QueuedRun = Schemas['QueuedRun']
export type Deed = Schemas['DeedView']
export type Dial = Schemas['DialView']
export type Fact = Schemas['FactView']
export type Fitting = Schemas['FittingView']
export type Gauge = Schemas['GaugeView']
export type Instrument = Schemas['InstrumentView']
export type InstrumentBody = Schemas['InstrumentBody']
export type Judgement = Schemas['Judgement']
export type Meaning = Schemas['MeaningView']
export type Part = Schemas['PartView']
export type PartKind = Schemas['PartKind']
export type Rulebook = Schemas['RulebookView']
export type RuleText = Schemas['RuleView']
export type Scheme = Schemas['Scheme']
export type SchemeInfo = Schemas['SchemeView']
export type PartChange = Schemas['PartChange']
export type Policies = Schemas['PoliciesView']
export type Policy = Schemas['PolicyView']
export type ProofOutcome = Schemas['ProofView']['outcome']
export type PinOnBoard = Schemas['PinOnBoard']
export type Reading = Schemas['ReadingView']
export type Step = Schemas['Step']
export type SocketOnBoard = Schemas['SocketOnBoard']
export type Strip = Schemas['StripView']
export type StagePlace = Schemas['StagePlace']
export type Substitutes = Schemas['SubstituteAnswer']
export type Ticket = Schemas['TicketView']
export type ShelfTicket = Schemas['ShelfTicket']
export type Understanding = Schemas['Understanding']
export type Verdict = Schemas['Verdict']
export type Warning = Schemas['WarningView']
export type Workshop = Schemas['WorkshopView']
export type Written = Schemas['Written']
export type Colour = Schemas['BandColour']
export type DiodeFound = Schemas['DiodeFoundView']
export type Equivalents = Schemas['EquivalentsAnswer']
export type EquivalentsQuestion = Schemas['EquivalentsQuestion']
export type EquivalentCandidate = Schemas['CandidateView']
export type GainAnswer = Schemas['GainAnswer']
export type Identified = Schemas['IdentifiedView']
export type IdentifyQuestion = Schemas['IdentifyQuestion']
export type Inspection = Schemas['InspectionView']
export type InspectionAnswer = Schemas['InspectionAnswer']
export type InspectionDesk = Schemas['InspectionDesk']
export type MatchLot = Schemas['MatchLotView']
export type Outline = Schemas['OutlineView']
export type PairedLot = Schemas['PairedLot']
export type TypeFields = Schemas['TypeFields']
export type TypeSheet = Schemas['TypeView']
export type Types = Schemas['TypesView']
export type Safety = Schemas['SafetyView']
export type PowerLog = Schemas['PowerLogView']
export type PowerUp = Schemas['PowerUpView']
export type VoltageChart = Schemas['VoltageChartView']
export type ChartPoint = Schemas['ChartPointView']
export type ChartCell = Schemas['ChartCell']
export type ChartStatus = Schemas['StatusOfAReading']
export type Feeds = Schemas['FeedsView']
export type DrawnFeed = Schemas['FeedView']
export type FeedSuspect = Schemas['FeedSuspect']
export type Flow = Schemas['FlowView']
export type Changes = Schemas['ChangesView']
export type Sockets = Schemas['SocketsView']
export type Valve = Schemas['ValveView']
export type Attachment = Schemas['AttachmentView']
export type Closing = Schemas['ClosingView']
export type Past = Schemas['PastAnswer']
export type Drift = Schemas['DriftView']
export type Plan = Schemas['PlanView']
export type Session = Schemas['SessionView']
export type Account = Schemas['AccountView']
export type Member = Schemas['MemberView']
export type Seat = Schemas['SeatView']
export type Role = Schemas['Role']
export type Scope = Schemas['Scope']
export type Story = Schemas['StoryView']
export type PowerAdvice = Schemas['AdviceAfterAStep']

/** Whether the server and its database answer. */
export const connected = ref(true)

/** The file that this page was begun from, as its name tells one build from another. */
const build = document
  .querySelector<HTMLScriptElement>('script[type=module][src^="/assets/"]')
  ?.src.split('/')
  .pop()

/** Whether the server has another front end than this page: it was brought up to date meanwhile. */
export const outdated = ref(false)

/** Sends a request, and looks which front end the server that answers would give out. */
async function sent(request: Request): Promise<Response> {
  const response = await fetch(request)
  const theirs = response.headers.get('x-owl-build')
  outdated.value = build !== undefined && theirs !== null && theirs !== build
  return response
}

/** An error as the server says it (RFC 9457), or that nobody answers. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly field?: string | null,
    readonly ask = false,
    readonly changed: Changed[] = [],
    readonly choices: string[] = [],
  ) {
    super(detail)
  }

  /** Nobody is there: what was typed is to be kept and sent again. */
  get away(): boolean {
    return this.status === 0 || this.status === 503 || this.status === 504
  }
}

/** Whether somebody has to sign in (again) before anything goes on. */
export const signedOut = ref(false)

/** Asks somebody else to countersign; what the countersign is, or nothing where it was not given. */
type AskCountersign = () => Promise<string | null>
let askCountersign: AskCountersign = () => Promise.resolve(null)
export function countersignedBy(ask: AskCountersign) {
  askCountersign = ask
}

/**
 * Sends a request. Where the session is over, the page asks to sign in, and what was typed stays; what needs a
 * countersign is sent again with it.
 */
async function guarded(request: Request): Promise<Response> {
  request.headers.set('x-owl-page', page)
  const again = request.clone()
  const response = await sent(request)
  if (response.status === 401) signedOut.value = true
  if (response.status !== 403) return response
  const said = (await response
    .clone()
    .json()
    .catch(() => ({}))) as Partial<Schemas['Problem']>
  const countersign = said.countersign ? await askCountersign() : null
  if (!countersign) return response
  again.headers.set('x-countersign', countersign)
  return sent(again)
}

export const api = createClient<paths>({ baseUrl: '/', fetch: guarded })

/** The data of an answer; throws the Problem that came instead. */
export async function told<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got: { data?: T; error?: unknown; response: Response }
  try {
    got = await answer
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') throw e
    connected.value = false
    throw new Problem(0, 'The server does not answer; what you typed is kept.')
  }
  // An answer alone does not say that the database is back: much is computed without it.
  if (got.data !== undefined) return got.data
  const said = (got.error ?? {}) as Partial<Schemas['Problem']>
  const problem = new Problem(
    got.response.status,
    said.detail ?? 'The server gave no reason.',
    said.field,
    said.ask === true,
    said.changed ?? [],
    said.choices ?? [],
  )
  if (problem.away) connected.value = false
  throw problem
}

/** Whether something was taken that is answered without a word; throws the Problem that came instead. */
export function took(answer: Promise<{ error?: unknown; response: Response }>): Promise<true> {
  return told(answer.then((got) => ({ ...got, data: got.response.ok ? (true as const) : undefined })))
}

/** Asks whether everything is back. */
export async function isBack(): Promise<boolean> {
  try {
    await told(api.GET('/api/health'))
    connected.value = true
    return true
  } catch {
    return false
  }
}

/** A key that makes sending twice the same as sending once. */
export function newKey(): string {
  return crypto.randomUUID()
}
/** The key of this page: what it did itself it is not told. */
const page = newKey()

/** Networks as they are found: the best so far, line by line. */
export async function* combineStream(asked: CombineQuestion, signal: AbortSignal): AsyncGenerator<Combine> {
  const request = new Request('/api/combine/stream', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(asked),
    signal,
  })
  const response = await guarded(request).catch((e: unknown) => {
    if (e instanceof DOMException) throw e
    connected.value = false
    throw new Problem(0, 'The server does not answer; what you typed is kept.')
  })
  if (!response.ok || !response.body) {
    await told(response.json().then((error: unknown) => ({ error, response })))
    return
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { value, done } = await reader.read()
    rest += value ?? ''
    const lines = rest.split('\n')
    rest = lines.pop() ?? ''
    for (const line of lines) if (line) yield JSON.parse(line) as Combine
    if (done) return
  }
}

/**
 * A run as it happens. Whoever loses it comes back with the last reading that he saw: the browser by itself after a
 * broken line, this function after a refusal, as while the database is away. Returns how to stop.
 */
export function liveRun(id: string, seen: (event: Live) => void, gone: () => void): () => void {
  let source: EventSource
  let last = 0
  let waiting: ReturnType<typeof setTimeout> | undefined
  function open() {
    source = new EventSource(`/api/reform/runs/${id}/live?after=${last}`)
    source.onmessage = (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as Live
      last = event.last
      if (event.run.phase === 'over') source.close()
      seen(event)
    }
    source.onerror = () => void lost(source)
  }
  async function lost(which: EventSource) {
    void isBack()
    if (which.readyState !== EventSource.CLOSED) return
    try {
      await told(api.GET('/api/reform/runs/{id}', { params: { path: { id } } }))
    } catch (e) {
      if (e instanceof Problem && e.status === 404) return gone()
    }
    waiting = setTimeout(open, 2000)
  }
  open()
  return () => {
    clearTimeout(waiting)
    source.onerror = null
    source.close()
  }
}

/**
 * What the other benches do, as it happens, since a position (null: whatever it may have been). Coming back after a broken
 * line misses nothing: the browser says what it heard last. Returns how to stop.
 */
export function hearBenches(
  ticket: string | null,
  after: string | null,
  heard: (event: BenchEvent) => void,
): () => void {
  let source: EventSource
  let last = after
  let waiting: ReturnType<typeof setTimeout> | undefined
  function open() {
    const query = new URLSearchParams({ page })
    if (ticket) query.set('ticket', ticket)
    if (last) query.set('after', last)
    source = new EventSource(`/api/events?${query.toString()}`)
    source.onmessage = (message: MessageEvent<string>) => {
      last = message.lastEventId
      heard(JSON.parse(message.data) as BenchEvent)
    }
    source.onerror = () => {
      // A broken line is taken up again by the browser; a refusal is not.
      if (source.readyState !== EventSource.CLOSED) return
      void isBack()
      waiting = setTimeout(open, 2000)
    }
  }
  open()
  return () => {
    clearTimeout(waiting)
    source.onerror = null
    source.close()
  }
}

/** Sends a file as it is; the server looks at its content. */
export async function sendFile<T>(address: string, file: Blob): Promise<T> {
  const request = new Request(address, {
    method: 'POST',
    headers: { 'content-type': file.type || 'application/octet-stream' },
    body: file,
  })
  const sent = guarded(request).then(async (response) => {
    const body: unknown = await response.json().catch(() => ({}))
    return response.ok ? { data: body as T, response } : { error: body, response }
  })
  return told(sent)
}
