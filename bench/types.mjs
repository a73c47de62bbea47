// Gives the workshop 50,000 transistors of its own and asks for equivalents over HTTP.
const url = process.argv[2]
const rows = ['type,kind,polarity,material,vcbo,vceo,ic,p,p_ref,p_at,tj,hfe_min,hfe_max,hfe_ic,ft,package,pinout']
const packages = ['TO-18', 'TO-92', 'TO-39', 'TO-126', 'TO-220']
for (let i = 0; i < 50_000; i++) {
  const vceo = 10 + (i % 97) * 3
  const watts = (0.2 * 1.05 ** (i % 100)).toFixed(2)
  rows.push(
    `W${i},bipolar,${i % 2 ? 'npn' : 'pnp'},${i % 7 ? 'silicon' : 'germanium'},${vceo + 20} V,${vceo} V,${(0.02 * 1.07 ** (i % 90)).toPrecision(3)} A,` +
      `${watts} W,${i % 3 ? 'ambient' : 'case'},25,150,${20 + (i % 200)},${60 + (i % 200) * 3},2 mA,${1 + (i % 300)} MHz,${packages[i % 5]},${i % 4 ? 'EBC' : 'CBE'}`,
  )
}
const start = performance.now()
const done = await fetch(`${url}/api/transistors/types/import`, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: rows.join('\n') })
console.log(await done.json(), `in ${Math.round(performance.now() - start)} ms`)

async function time(what, ask) {
  const times = []
  for (let i = 0; i < 30; i++) {
    const from = performance.now()
    const answer = await ask(i)
    await answer.text()
    if (answer.status !== 200) throw new Error(`${what}: ${answer.status}`)
    times.push(performance.now() - from)
  }
  console.log(`${what}: first ${times[0].toFixed(1)} ms`)
  times.sort((a, b) => a - b)
  console.log(`${what}: median ${times[15].toFixed(1)} ms, most of the others ${times[28].toFixed(1)} ms`)
}
const post = (path, body) => fetch(url + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
await time('equivalents of a type', (i) => post('/api/transistors/equivalents', { type: `W${4000 + i * 31}` }))
await time('equivalents for a circuit', () =>
  post('/api/transistors/equivalents', { type: '2N2905A', circuit: { stage: 'small signal', supply: 24, load: 1000, other_material: true } }))
await time('a search', (i) => fetch(`${url}/api/transistors/types?search=W${i}`))
