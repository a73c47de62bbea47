// How long a bench waits for what it asks most: prints one line of JSON, milliseconds, the median of seven.
const url = process.argv[2]
const shelf = await (await fetch(`${url}/api/tickets`)).json()
const tickets = Array.isArray(shelf) ? shelf : shelf.tickets
const parts = async (id) => ((await (await fetch(`${url}/api/tickets/${id}`)).json()).parts ?? []).length
let largest = { id: tickets[0].id, n: -1 }
for (const t of tickets.slice(0, 12)) {
  const n = await parts(t.id)
  if (n > largest.n) largest = { id: t.id, n }
}
const questions = {
  'the shelf': '/api/tickets',
  'a ticket opened': `/api/tickets/${largest.id}`,
  'search: a value, a place, what was found': '/api/past?q=47k%20plate%20loads%20that%20were%20high',
  'search: words that many have': '/api/past?q=heron',
  'search: words that few have': '/api/past?q=storm%20lamp',
  'search: nothing asked': '/api/past?q=',
  'drift': '/api/past/drift',
  'the drawers': '/api/drawers?q=10k',
  'shopping list': '/api/shopping',
}
const out = {}
for (const [what, path] of Object.entries(questions)) {
  const took = []
  let bytes = 0
  for (let i = 0; i < 7; i++) {
    const from = performance.now()
    const answer = await fetch(url + path)
    bytes = (await answer.text()).length
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
    took.push(performance.now() - from)
  }
  const first = took[0]
  took.sort((a, b) => a - b)
  out[what] = { ms: took[3], first, bytes }
}
console.log(JSON.stringify(out))
