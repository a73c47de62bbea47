// While eight hands write, the disk is filled to the last block and emptied again; a database that gave up is started again, as
// its service would.
import { execFileSync, spawn } from 'node:child_process'
import { closeSync, openSync, rmSync, writeSync } from 'node:fs'
import { setTimeout as sleep } from 'node:timers/promises'
import { freePort, Hands } from './hands.mjs'

const [program, dir, rounds] = process.argv.slice(2)
const port = await freePort()
const server = spawn(program, ['serve', '--listen', `127.0.0.1:${port}`], { stdio: ['ignore', 'ignore', 'inherit'] })
process.on('exit', () => server.kill('SIGTERM'))
const hands = new Hands([`http://127.0.0.1:${port}`])
await hands.begin(8)
const file = `${dir}/ballast`
function fill() {
  const block = Buffer.alloc(65536)
  const to = openSync(file, 'w')
  try {
    for (;;) writeSync(to, block)
  } catch (e) {
    if (e.code !== 'ENOSPC') throw e
  }
  closeSync(to)
}
for (let round = 0; round < Number(rounds); round++) {
  await sleep(2000)
  const before = hands.acknowledged.length
  fill()
  const from = performance.now()
  // Whatever is freed by the database itself is taken again.
  while (performance.now() - from < 6000) {
    await sleep(300)
    fill()
  }
  rmSync(file)
  execFileSync('scripts/cluster.sh', ['start', dir], { stdio: ['ignore', 'ignore', 'inherit'] })
  const full = hands.acknowledged.length
  const freed = performance.now()
  while (hands.acknowledged.length === full) await sleep(50)
  console.log(`full: ${full - before} more acknowledged; room again: on after ${((performance.now() - freed) / 1000).toFixed(1)} s`)
}
for (const [what, n] of Object.entries(hands.said)) console.log(`said ${n} times: ${what}`)
await hands.end()
process.exit()
