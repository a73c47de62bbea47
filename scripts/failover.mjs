// Starts the nodes and two servers, has eight hands write, kills whoever leads with everything on it, and prints after how
// many seconds the benches went on.
import { execFileSync, spawn } from 'node:child_process'
import { setTimeout as sleep } from 'node:timers/promises'
import { openSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { freePort, Hands } from './hands.mjs'

const [dir, first, program, rounds, ...as] = process.argv.slice(2)
const port = Number(first)
const nodes = {}
function startNode(n) {
  const log = openSync(`${dir}/node${n}.log`, 'a')
  const [what, ...args] = [...as, 'patroni', `${dir}/node${n}.yml`]
  nodes[n] = spawn(what, args, { stdio: ['ignore', log, log] })
}
/** What a node says of itself. */
async function asked(n, path) {
  try {
    return (await fetch(`http://127.0.0.1:${port + 20 + n}/${path}`, { signal: AbortSignal.timeout(1000) })).status === 200
  } catch {
    return false
  }
}
/** Who leads, with the other one beside it word by word. */
async function whole() {
  for (let i = 0; i < 1200; i++) {
    for (const [n, other] of [[1, 2], [2, 1]]) {
      if ((await asked(n, 'primary')) && (await asked(other, 'synchronous'))) return n
    }
    await sleep(100)
  }
  throw new Error(`the two nodes do not come together, see ${dir}/node*.log`)
}
startNode(1)
startNode(2)
console.log(`node ${await whole()} leads`)

const servers = await Promise.all([freePort(), freePort()])
for (const p of servers) {
  const server = spawn(program, ['serve', '--listen', `127.0.0.1:${p}`], { stdio: ['ignore', 'ignore', 'inherit'] })
  process.on('exit', () => server.kill('SIGTERM'))
}
let unsafe = 0
const hands = new Hands(servers.map((p) => `http://127.0.0.1:${p}`))
const ticket = await hands.begin(8)
/** A run as any server tells it, asked until one answers. */
async function run(id) {
  for (let n = 0; ; n++) {
    try {
      const response = await fetch(`${hands.urls[n % 2]}/api/reform/runs/${id}`, { signal: AbortSignal.timeout(3000) })
      if (response.ok) return await response.json()
    } catch {
      // asked again
    }
    await sleep(200)
  }
}
/** Puts an electrolytic on the simulated bench and feeds it. */
async function feed(name) {
  const said = await hands.send(`/api/tickets/${ticket}/say`, { text: `${name} 22u 250V electrolytic smoothing`, key: randomUUID(), version: 1 })
  const id = randomUUID()
  const plan = { capacitance: 2.2e-5, rated: 250, working: 180, idle_years: 1, supply: { voltage: 250, series: 10000 } }
  const part_id = said.written?.id ?? said.id
  await hands.send('/api/reform/runs', { id, part_id, plan, mode: 'simulated bench', speed: 1, clip: 'fresh', seed: 7 })
  while (!(await run(id)).touch.safe) await sleep(200)
  await hands.send(`/api/reform/runs/${id}/start`, { session: randomUUID(), name: 'Sunniva' })
  return id
}
for (let round = 0; round < Number(rounds); round++) {
  const fed = await feed(`C${round + 1}`)
  await sleep(3000)
  const leader = await whole()
  hands.longest = 0
  const from = performance.now()
  // The machine is gone: whoever watches over it, and the database.
  nodes[leader].kill('SIGKILL')
  execFileSync('pkill', ['-9', '-f', `${dir}/data${leader}`])
  const other = 3 - leader
  while (!(await asked(other, 'primary'))) await sleep(100)
  const led = (performance.now() - from) / 1000
  const before = hands.acknowledged.length
  while (hands.acknowledged.length === before) await sleep(50)
  const seconds = (hands.longest / 1000).toFixed(1)
  console.log(`node ${leader} killed: node ${other} led after ${led.toFixed(1)} s, the benches waited ${seconds} s`)
  // Whoever drives it was away from its database for less than half a minute and goes on, with every reading of that time; or
  // it is stopped and said to be charged. Never is it called safe meanwhile.
  const state = await run(fed)
  console.log(`  the run: ${state.ending ?? state.phase}, safe to touch: ${state.touch.safe}; ${state.sentence}`)
  if (state.touch.safe) unsafe++
  startNode(leader)
}
await whole()
console.log(`the leader was killed ${rounds} times, 8 hands at 2 servers`)
await hands.end()
const ask = (sql) => execFileSync('psql', [process.env.OWL_DATABASE_URL, '-qtAXc', sql], { encoding: 'utf8' }).trim()
const gaps = ask('select count(*) from (select run_id from reform_sample group by run_id having count(*) <> max(n) - min(n) + 1) r')
const apart = ask('select max(apart) from (select at_s - lag(at_s) over (partition by run_id order by n) as apart from reform_sample) r')
console.log(`runs with a reading that is missing or there twice: ${gaps}; readings at most ${Number(apart).toFixed(1)} s apart`)
if (gaps !== '0' || unsafe) process.exitCode = 1
// The nodes stay: what they hold is looked at next.
process.exit()
