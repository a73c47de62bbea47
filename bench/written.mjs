// Sixteen hands write readings of a part each for ten seconds; prints how many a second.
import { randomUUID } from 'node:crypto'

const url = process.argv[2]
const send = async (path, body) => {
  const answer = await fetch(url + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`)
  return answer.json()
}
const begun = { source: 'mains transformer', devices: 'valves', school: 'test first' }
const parts = []
for (let i = 1; i <= 16; i++) {
  const ticket = await send('/api/tickets', { id: randomUUID(), name: `hand ${i}`, ...begun })
  parts.push((await send(`/api/tickets/${ticket.id}/say`, { text: `R${i} 4k7 10%`, key: randomUUID(), version: 1 })).written.id)
}
let written = 0
const until = performance.now() + 10_000
await Promise.all(parts.map(async (part) => {
  // A part has a dozen readings, not thousands.
  for (let n = 0; performance.now() < until; n++) {
    await send(`/api/parts/${part}/readings`, { key: randomUUID(), version: 1, typed: '4.7k', state: 'lifted' })
    written++
  }
}))
console.log(written / 10)
