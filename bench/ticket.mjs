// Makes a large ticket of a small one: written out, multiplied, taken in again; then opened and worked on over HTTP.
import { randomUUID } from 'node:crypto'

const url = process.argv[2]
const send = async (method, path, body) => {
  const answer = await fetch(url + path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  const got = await answer.json()
  if (!answer.ok) throw new Error(`${path}: ${JSON.stringify(got)}`)
  return got
}
const seed = await send('POST', '/api/tickets', { name: 'seed', source: 'mains transformer', devices: 'valves', school: 'test first', intake: { sheet_line: '220' } })
for (const text of ['R1 47k 10% ½W plate load', 'R1 = 51k lifted', 'C1 .02/400 coupling wax paper', 'C1 leak 12uA @200 lifted'])
  await send('POST', `/api/tickets/${seed.id}/say`, { text, key: randomUUID(), version: 1 })
await send('POST', `/api/tickets/${seed.id}/chart/valves`, { at: 'V1', valve: '6V6' })
const run = randomUUID()
await send('PUT', `/api/tickets/${seed.id}/chart/runs`, { id: run, name: 'before', line: '214' })
const doc = await (await fetch(`${url}/api/tickets/${seed.id}/record.json`)).json()

const id = randomUUID()
doc.ticket = { ...doc.ticket, id, name: 'large' }
const [parts, readings, points] = [doc.parts, doc.readings, doc.chart_points]
doc.parts = []
doc.readings = []
doc.chart_points = []
doc.chart_runs = doc.chart_runs.map((r, i) => ({ ...r, ticket_id: id, id: i ? r.id : randomUUID() }))
doc.chart_readings = []
doc.power_ups = []
for (let i = 0; i < 400; i++) {
  const of = parts[i % parts.length]
  const part = { ...of, id: randomUUID(), ticket_id: id, name: `${of.name[0]}${i + 1}`, feed_id: null, group_id: null }
  doc.parts.push(part)
  const own = readings.filter((r) => r.part_id === of.id)
  for (let n = 0; n < 12 + (i % 2); n++) doc.readings.push({ ...own[n % own.length], id: randomUUID(), part_id: part.id })
}
for (let i = 0; i < 300; i++) {
  const point = { ...points[i % points.length], id: randomUUID(), ticket_id: id, name: `V${i} pin 3`, pin: 3, place: i, sheet: 200 + i }
  doc.chart_points.push(point)
  doc.chart_readings.push({ run_id: doc.chart_runs[0].id, point_id: point.id, volts: 190 + i, read_at: doc.ticket.created_at })
}
await send('POST', '/api/tickets/import', doc)
console.log(`${doc.parts.length} parts, ${doc.chart_points.length} points, ${doc.readings.length} readings`)

async function time(what, ask, times = 30, at_once = 1) {
  const took = []
  let size = 0
  await Promise.all(
    Array.from({ length: at_once }, async () => {
      for (let i = 0; i < times; i++) {
        const from = performance.now()
        const text = await ask()
        took.push(performance.now() - from)
        size = text.length
      }
    }),
  )
  took.sort((a, b) => a - b)
  const ms = (share) => took[Math.min(took.length - 1, Math.floor(took.length * share))].toFixed(0)
  console.log(`${what}: median ${ms(0.5)} ms, 99 % below ${ms(0.99)} ms, ${(size / 1e3).toFixed(0)} kB`)
}
const get = (path) => async () => {
  const answer = await fetch(url + path)
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
  return answer.text()
}
const resistors = doc.parts.filter((p) => p.name.startsWith('R'))
const reads = (value) => async () => {
  const part = resistors[Math.floor(Math.random() * resistors.length)]
  const body = { key: randomUUID(), typed: value, state: 'lifted' }
  return JSON.stringify(await send('POST', `/api/parts/${part.id}/readings`, body))
}
await time('the ticket with its tray', get(`/api/tickets/${id}`))
await time('one part, whole', get(`/api/parts/${resistors[0].id}`))
await time('a reading taken', reads('47.3k'))
await time('a reading taken, 16 at once', reads('46.9k'), 30, 16)
await time('the voltage chart', get(`/api/tickets/${id}/chart`))
await time('changes', get(`/api/tickets/${id}/changes`))
await time('closing', get(`/api/tickets/${id}/closing`))
await time('the plan', get(`/api/tickets/${id}/plan`))
await time("the technician's report", get(`/api/tickets/${id}/report/technician`))
await time('the record as JSON', get(`/api/tickets/${id}/record.json`))
await time('a search', get('/api/past?q=47k%20plate%20loads%20that%20were%20high'))
