// Fills the drawers with 20,000 kinds and asks for them over HTTP.
const url = process.argv[2]
const rows = ['kind,family,type,value,tolerance,volts,watts,count,place']
for (let i = 0; i < 10_000; i++) {
  rows.push(`resistor,metal film,,${(10 * 1.0013 ** i).toPrecision(6)},1 %,,${i % 3 ? 1 : 2} W,${1 + (i % 9)},cabinet ${i % 200}`)
  const pico = (1 * 1.0013 ** i).toPrecision(6)
  rows.push(`capacitor,polypropylene,,${pico} pF,5 %,${i % 2 ? 630 : 400},,${1 + (i % 9)},binder ${i % 200}`)
}
const imported = performance.now()
const done = await fetch(`${url}/api/drawers/import`, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: rows.join('\n') })
console.log(await done.json(), `in ${Math.round(performance.now() - imported)} ms`)

async function time(what, ask) {
  const times = []
  for (let i = 0; i < 30; i++) {
    const start = performance.now()
    const answer = await ask(i)
    await answer.text()
    if (answer.status !== 200) throw new Error(`${what}: ${answer.status}`)
    times.push(performance.now() - start)
  }
  times.sort((a, b) => a - b)
  console.log(`${what}: median ${times[15].toFixed(1)} ms, most ${times[29].toFixed(1)} ms`)
}
const post = (path, body) => fetch(url + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
await time('search "0.047 630"', () => fetch(`${url}/api/drawers?search=0.047%20630`))
await time('search "cabinet 17 1W"', () => fetch(`${url}/api/drawers?search=cabinet%2017%201W`))
await time('substitute a resistor', (i) =>
  post('/api/substitute', { part: { kind: 'resistor', family: 'carbon composition', value: 1000 * 1.3 ** (i % 20), power: 0.5, tolerance: 0.1 }, position: 'plate load', school: 'test first' }))
await time('substitute a capacitor', (i) =>
  post('/api/substitute', { part: { kind: 'capacitor', family: 'wax paper', value: 1e-9 * 1.3 ** (i % 20), voltage: 400 }, position: 'coupling', school: 'test first' }))
await time('four parts from the drawers', (i) =>
  post('/api/combine', { kind: 'resistor', target: 1234 + i * 77, max_parts: 4, from: { drawers: true } }))
