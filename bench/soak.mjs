// bench/soak.mjs URL PID RUNS SECONDS SPEED
import { readFileSync } from 'node:fs'
import { execSync } from 'node:child_process'
const [url, pid, runs, seconds, speed] = [process.argv[2], process.argv[3], ...process.argv.slice(4).map(Number)]
async function ask(method, path, body) {
  const r = await fetch(url + path, {
    method,
    headers: { 'content-type': 'application/json' },
    body: body && JSON.stringify(body),
  })
  if (!r.ok) throw new Error(`${path}: ${r.status} ${await r.text()}`)
  return r.status === 204 ? null : r.json()
}
const ticket = await ask('POST', '/api/tickets', { name: 'Soak', source: 'mains transformer', devices: 'valves', school: 'test first' })
const ids = []
for (let n = 1; n <= runs; n++) {
  const said = await ask('POST', `/api/tickets/${ticket.id}/say`, {
    text: `C${n} 22u 350V electrolytic`, key: crypto.randomUUID(), version: 1,
  })
  const id = crypto.randomUUID()
  await ask('POST', '/api/reform/runs', {
    id, part_id: said.part_id, mode: 'simulated bench', clip: 'tired', speed, seed: n,
    plan: { capacitance: 22e-6, rated: 350, working: 280, idle_years: 30, supply: { voltage: 350, series: 22000 } },
  })
  ids.push(id)
}
const session = crypto.randomUUID()
await new Promise((r) => setTimeout(r, 3000))
for (const id of ids) {
  for (let tries = 0; ; tries++) {
    try {
      await ask('POST', `/api/reform/runs/${id}/start`, { session, name: 'Soak' })
      break
    } catch (e) {
      if (tries > 20) throw e
      await new Promise((r) => setTimeout(r, 500))
    }
  }
}
const ticks = () => {
  const f = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(f[11]) + Number(f[12])) / 100
}
const database = () =>
  execSync("ps -eo comm,time --no-headers | awk '$1==\"postgres\"{split($2,t,\":\"); s+=t[1]*3600+t[2]*60+t[3]} END{print s+0}'")
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024
const count = async () => {
  let all = 0
  for (const id of ids) all += (await ask('GET', `/api/reform/runs/${id}`)).at_s
  return all
}
const [cpu, pg, at, from] = [ticks(), Number(database()), await count(), Date.now()]
let most = 0
while (Date.now() - from < seconds * 1000) {
  most = Math.max(most, memory())
  await new Promise((r) => setTimeout(r, 1000))
}
const took = (Date.now() - from) / 1000
const [cpu2, pg2, at2] = [ticks(), Number(database()), await count()]
let samples = 0
let gap = 0
for (const id of ids) {
  const { samples: s } = await ask('GET', `/api/reform/runs/${id}/record.json`)
  samples += s.length
  for (let i = 1; i < s.length; i++) gap = Math.max(gap, s[i].at_s - s[i - 1].at_s)
}
console.log(`${runs} runs at ${speed}x for ${took.toFixed(0)} s`)
console.log(`run time led: ${((at2 - at) / took / runs).toFixed(1)} s a second each`)
console.log(`readings stored: ${samples}, largest gap ${gap.toFixed(2)} s of the run`)
console.log(`server: ${(((cpu2 - cpu) / took) * 100).toFixed(0)} % of a core, at most ${most.toFixed(0)} MB`)
console.log(`database: ${(((pg2 - pg) / took) * 100).toFixed(0)} % of a core`)
