import { afterEach, expect, test, vi } from 'vitest'
import { api, countersignedBy, Problem, signedOut, told, took } from '@/api/client'
import { useForm } from '@/views/people/useForm'
import { useSession } from '@/views/people/useSession'

/** Answers one request after another, and keeps what came. */
function answering(...answers: [number, unknown][]) {
  const came: Request[] = []
  vi.stubGlobal('fetch', (request: Request) => {
    came.push(request)
    const [status, body] = answers.shift() ?? [500, {}]
    const text = body === null ? null : JSON.stringify(body)
    return Promise.resolve(new Response(text, { status, headers: { 'content-type': 'application/json' } }))
  })
  return came
}
afterEach(() => {
  vi.unstubAllGlobals()
  signedOut.value = false
})
const decide = () =>
  told(api.POST('/api/decode', { body: { text: '4k7', measured_text: '', sheet: '', hints: null } as never }))

test('what needs a countersign is asked for and sent again with it; without one the refusal stands', async () => {
  const refusal = { title: 'to be countersigned', detail: 'a technician signs', countersign: true }
  const came = answering([403, refusal], [200, { readings: [] }], [403, refusal])
  const asked: string[] = []
  countersignedBy(() => {
    asked.push('asked')
    return Promise.resolve(asked.length === 1 ? 'signed' : null)
  })
  await decide()
  expect(came.map((r) => r.headers.get('x-countersign'))).toEqual([null, 'signed'])
  await expect(decide()).rejects.toThrow('a technician signs')
  expect([asked.length, came.length]).toEqual([2, 3])
})

test('an ended session asks to sign in, and what was refused for another reason does not', async () => {
  answering([403, { detail: 'Ase only looks' }], [401, { detail: 'sign in first' }])
  await expect(decide()).rejects.toThrow('Ase only looks')
  expect(signedOut.value).toBe(false)
  await expect(decide()).rejects.toThrow('sign in first')
  expect(signedOut.value).toBe(true)
})

test('who is there is asked once for the whole page', async () => {
  const ase = { id: '1', name: 'Ase Lund', role: 'reader' }
  answering(
    [200, { access: 'accounts', person: null, bench: '', has_owner: true }],
    [200, { access: 'accounts', person: ase, bench: 'bench 4', has_owner: true }],
    [503, { detail: 'the database does not answer' }],
  )
  const here = useSession()
  const there = useSession()
  await here.ask()
  expect([there.person.value, signedOut.value]).toEqual([null, true])
  await there.ask()
  expect([here.person.value?.name, signedOut.value, here.accounts.value]).toEqual(['Ase Lund', false, true])
  await here.ask()
  expect([here.problem.value?.detail, here.person.value?.name]).toEqual([
    'the database does not answer',
    'Ase Lund',
  ])
})

test('a form stands with what is wrong beside its field, and an answer without a word is an answer', async () => {
  const form = useForm()
  answering([422, { detail: 'ten or more', field: 'new' }], [204, null], [409, { detail: 'changed' }])
  const send = () =>
    form.send(() => took(api.POST('/api/account/password', { body: { now: 'a', new: 'b' } })))
  expect(await send()).toBeNull()
  expect([form.at('new'), form.at('now'), form.at(null)]).toEqual(['ten or more', null, null])
  expect(await send()).toBe(true)
  expect(form.at('new')).toBeNull()
  expect(await send()).toBeNull()
  expect([form.at(null), form.wrong.value instanceof Problem]).toEqual(['changed', true])
})
