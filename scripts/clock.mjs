// Moves the clock of server and database to and fro while eight hands write and the demo's runs reform.
import { execFileSync, spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { setTimeout as sleep } from 'node:timers/promises'
import { freePort, Hands } from './hands.mjs'

const [program, shift, fake] = process.argv.slice(2)
const port = await freePort()
const env = { ...process.env, LD_PRELOAD: fake }
const server = spawn(program, ['serve', '--listen', `127.0.0.1:${port}`], { stdio: ['ignore', 'ignore', 'inherit'], env })
process.on('exit', () => server.kill('SIGTERM'))
const ask = (sql) => execFileSync('psql', [process.env.OWL_DATABASE_URL, '-qtAXc', sql], { encoding: 'utf8' }).trim()
/** Readings that stand behind one of the same part that is said to be younger. */
const back = () => Number(ask(
  `select count(*) from (select taken_at < lag(taken_at) over (partition by part_id order by ordinal) as back from reading) r where back`))
const backBefore = back()
const hands = new Hands([`http://127.0.0.1:${port}`])
const before = Number(await ask('select count(*) from reading'))
await hands.begin(8)
for (const by of ['-2h', '+3h', '-1d', '+0']) {
  await sleep(2500)
  hands.longest = 0
  writeFileSync(shift, by)
  await sleep(1500)
  const runs = ask(`select string_agg(coalesce(ending, phase) || ' ' || samples, ', ' order by ordinal) from reform_run where created_at > '2000-01-01'`)
  console.log(`clock ${by}: the hands waited ${(hands.longest / 1000).toFixed(1)} s at most; runs: ${runs}`)
}
console.log(`readings of a part out of their order: ${back() - backBefore}`)
console.log(`readings of a run out of their order: ${ask(
  `select count(*) from (select at_s < lag(at_s) over (partition by run_id order by n) as back from reform_sample) r where back`)}`)
await hands.end(before)

process.exit()
