// How long a ticket with 500 parts takes to be judged anew when its school changes. Prints, asserts nothing.
// Aim: under 100 ms, from the request to the last byte of the ticket. Run by bench/rejudge.sh.
import { request } from 'node:http'

const url = process.argv[2]
/** As a browser asks: what comes back is counted as it comes, and not taken apart. */
function change(path, body) {
  return new Promise((done, failed) => {
    const headers = { 'Content-Type': 'application/json', 'Accept-Encoding': 'gzip' }
    const asked = request(url + path, { method: 'PATCH', headers }, (answer) => {
      let bytes = 0
      answer.on('data', (some) => (bytes += some.length))
      answer.on('end', () => (answer.statusCode === 200 ? done(bytes) : failed(new Error(String(answer.statusCode)))))
    })
    asked.on('error', failed)
    asked.end(JSON.stringify(body))
  })
}
async function ask(method, path, body) {
  const headers = { 'Content-Type': 'application/json' }
  const answer = await fetch(url + path, { method, headers, body: body && JSON.stringify(body) })
  const text = await answer.text()
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text}`)
  return { json: JSON.parse(text), bytes: text.length }
}
const kinds = [
  (n) => [`R${n} 47k 10% plate load`, `R${n} = ${40 + (n % 20)}k lifted`],
  (n) => [`R${n} 330 5% cathode`, `R${n} = ${310 + (n % 50)} lifted`],
  (n) => [`C${n} .022 MFD 400V wax paper coupling grid 470k bias -6 volts 200`, `C${n} leak ${n % 9}uA @400 lifted`],
  (n) => [`C${n} 32 MFD 350V electrolytic smoothing`, `C${n} ${25 + (n % 20)}u @120 lifted`, `C${n} esr 2`, `C${n} leak .3mA @350`],
  (n) => [`L${n} choke sheet 240 ohm`, `L${n} ${200 + (n % 80)} lifted`],
]
const { json: ticket } = await ask('POST', '/api/tickets', { name: 'Long shelf', source: 'mains transformer', devices: 'valves', school: 'test first' })
const path = `/api/tickets/${ticket.id}`
for (let n = 1; n <= 500; n++) {
  for (const text of kinds[n % kinds.length](n)) await ask('POST', `${path}/say`, { text, key: crypto.randomUUID() })
}
const schools = ['keep original', 'replace on sight', 'test first']
const times = []
let { version } = (await ask('GET', path)).json
let bytes = 0
for (let i = 0; i < 30; i++) {
  const before = performance.now()
  bytes = await change(path, { version: version++, school: schools[i % 3] })
  times.push(performance.now() - before)
}
times.sort((a, b) => a - b)
const ms = (t) => `${t.toFixed(0)} ms`
console.log(`500 parts, another school: median ${ms(times[15])}, least ${ms(times[0])}, most ${ms(times[29])}, ${(bytes / 1000).toFixed(0)} kB as sent`)
