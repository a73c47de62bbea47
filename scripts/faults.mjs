// While eight hands write, the server is killed (SIGKILL), or the database is (immediate), in turn.
import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { setTimeout as sleep } from 'node:timers/promises'
import { freePort, Hands } from './hands.mjs'

const [program, dir, rounds] = process.argv.slice(2)
const port = await freePort()
let server
function start() {
  server = spawn(program, ['serve', '--listen', `127.0.0.1:${port}`], { stdio: ['ignore', 'ignore', 'inherit'] })
}
const cluster = (...args) => execFileSync('scripts/cluster.sh', args, { stdio: ['ignore', 'ignore', 'inherit'] })

start()
const hands = new Hands([`http://127.0.0.1:${port}`])
await hands.begin(8)
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
console.log(`server killed ${killed.server} times, database ${killed.database} times, 8 hands`)
await hands.end()
server.kill('SIGTERM')
