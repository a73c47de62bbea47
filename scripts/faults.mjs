// Eight hands write readings and send each again under its key until it is acknowledged, as the page does. Meanwhile the
// server is killed (SIGKILL), or the database is (immediate), in turn.
import { execFileSync, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createServer } from 'node:net'
import { setTimeout as sleep } from 'node:timers/promises'

const [program, dir, rounds] = process.argv.slice(2)
const HANDS = 8
const port = await new Promise((resolve) => {
  const s = createServer().listen(0, '127.0.0.1', () => {
    const { port } = s.address()
    s.close(() => resolve(port))
  })
})
const url = `http://127.0.0.1:${port}`
let server
function start() {
  server = spawn(program, ['serve', '--listen', `127.0.0.1:${port}`], { stdio: ['ignore', 'ignore', 'inherit'] })
}
const cluster = (...args) => execFileSync('scripts/cluster.sh', args, { stdio: ['ignore', 'ignore', 'inherit'] })
const count = { acknowledged: 0, 'sent again': 0, 'connection cut': 0 }
const note = (what) => (count[what] = (count[what] ?? 0) + 1)

async function send(path, body) {
  for (;;) {
    try {
      const response = await fetch(url + path, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(10_000),
      })
      const said = await response.text()
      if (response.ok) return JSON.parse(said)
      note(`answer ${response.status}`)
      if (response.status !== 503 && response.status !== 504) throw new Error(`${path}: ${response.status} ${said}`)
    } catch (e) {
      if (e instanceof Error && e.message.startsWith(path)) throw e
      note('connection cut')
    }
    note('sent again')
    await sleep(100)
  }
}

start()
const ticket = await send('/api/tickets', {
  id: randomUUID(), name: 'Storm glass', source: 'mains transformer', devices: 'valves', school: 'test first',
})
const parts = []
for (let i = 1; i <= HANDS; i++) {
  const said = await send(`/api/tickets/${ticket.id}/say`, { text: `R${i} 4k7 10%`, key: randomUUID(), version: 1 })
  parts.push(said.written?.id ?? said.id)
}
let on = true
const acknowledged = []
async function hand(part) {
  for (let n = 0; on; n++) {
    const key = randomUUID()
    const typed = `${4.5 + (n % 50) / 100}k`
    await send(`/api/parts/${part}/readings`, { key, version: 1, typed, state: 'lifted' })
    acknowledged.push(key)
    note('acknowledged')
    await sleep(5)
  }
}
const hands = parts.map(hand)
const killed = { server: 0, database: 0 }
for (let round = 0; round < Number(rounds); round++) {
  await sleep(1000 + Math.random() * 1500)
  if (round % 2 === 0) {
    killed.server++
    const gone = once(server, 'exit')
    server.kill('SIGKILL')
    await gone
    start()
  } else {
    killed.database++
    cluster('stop', dir, '--now')
    await sleep(Math.random() * 1500)
    cluster('start', dir)
  }
}
on = false
await Promise.all(hands)
server.kill('SIGTERM')
const ask = (sql) => execFileSync('psql', [process.env.OWL_DATABASE_URL, '-qtAXc', sql], { encoding: 'utf8', maxBuffer: 1 << 28 })
const there = ask('select id from reading').split('\n').filter(Boolean)
const lost = acknowledged.filter((k) => !there.includes(k)).length
const doubled = there.length - new Set(acknowledged).size
console.log(`server killed ${killed.server} times, database ${killed.database} times, ${HANDS} hands`)
for (const [what, n] of Object.entries(count)) console.log(`${what}: ${n}`)
console.log(`acknowledged and lost: ${lost}; there more than once, or never acknowledged: ${doubled}`)
process.exitCode = lost || doubled ? 1 : 0
