import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { computed, ref } from 'vue'
import { connected, signedOut } from '@/api/client'
import { useOthers } from '@/views/bench/useOthers'
import { inView, serve, until } from './server'

/** The browser's streams, as the tests open and break them. */
class Stream {
  static all: Stream[] = []
  static CLOSED = 2
  readyState = 1
  onmessage: ((m: { data: string; lastEventId: string }) => void) | null = null
  onerror: (() => void) | null = null
  constructor(readonly url: string) {
    Stream.all.push(this)
  }
  close() {
    this.readyState = Stream.CLOSED
  }
  tell(event: object, id = 'e.7') {
    this.onmessage?.({ data: JSON.stringify(event), lastEventId: id })
  }
  get query() {
    return new URL(this.url, 'http://here').searchParams
  }
}
const open = () => Stream.all.filter((s) => s.readyState !== Stream.CLOSED)
function one(): Stream {
  const [stream] = open()
  if (!stream) throw new Error('no stream is open')
  return stream
}
let state = 'visible'
function sight(now: string) {
  state = now
  document.dispatchEvent(new Event('visibilitychange'))
}

beforeEach(() => {
  Stream.all = []
  connected.value = true
  signedOut.value = false
  state = 'visible'
  vi.stubGlobal('EventSource', Stream)
  vi.spyOn(document, 'visibilityState', 'get').mockImplementation(() => state as DocumentVisibilityState)
})
let left = () => {}
afterEach(() => {
  left()
  vi.restoreAllMocks()
})

function listening(ticket = ref<string | null>('t1')) {
  const looks: string[] = []
  const look = (what: string) => () => void looks.push(what)
  const { value: others, app } = inView(() =>
    useOthers(
      computed(() => ticket.value),
      () => 'e.3',
      {
        ticket: look('ticket'),
        shelf: look('shelf'),
        workshop: look('workshop'),
      },
    ),
  )
  left = () => app.unmount()
  return { looks, others, ticket }
}

test('what another bench does is looked at once, however much it does at once', async () => {
  const { looks, others } = listening()
  const s = one()
  expect([s.query.get('ticket'), s.query.get('after')]).toEqual(['t1', 'e.3'])
  s.tell({ what: 'here', others: [{ name: 'Jon Vik', bench: 'bench 2', own: false }] })
  expect(others.value[0]?.name).toBe('Jon Vik')
  for (let i = 0; i < 5; i++) s.tell({ what: 'ticket', id: 't1' })
  s.tell({ what: 'ticket', id: 'another' })
  s.tell({ what: 'workshop' })
  await until(() => looks.includes('shelf'))
  expect([...looks].sort()).toEqual(['shelf', 'ticket', 'workshop'])
  s.tell({ what: 'look' })
  await until(() => looks.length === 5)
})

test('a page out of sight, without a server or without a person hears nothing, and takes it up again', async () => {
  const { ticket } = listening()
  for (const [off, on] of [
    [() => sight('hidden'), () => sight('visible')],
    [() => (connected.value = false), () => (connected.value = true)],
    [() => (signedOut.value = true), () => (signedOut.value = false)],
  ] as const) {
    off()
    await until(() => open().length === 0)
    on()
    await until(() => open().length === 1)
  }
  ticket.value = 't2'
  await until(() => open()[0]?.query.get('ticket') === 't2')
  expect(open()).toHaveLength(1)
  left()
  left = () => {}
  expect(open()).toEqual([])
})

test('a stream that was refused is asked for again from where it was', async () => {
  serve(() => ({ body: {} }))
  listening()
  const s = one()
  s.tell({ what: 'workshop' }, 'e.9')
  // A broken line is taken up by the browser itself.
  s.onerror?.()
  expect(Stream.all).toHaveLength(1)
  s.close()
  s.onerror?.()
  await until(() => Stream.all.length === 2)
  expect(open()[0]?.query.get('after')).toBe('e.9')
})
