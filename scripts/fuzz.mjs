// Writes the served OpenAPI document with the keys of what is really there, so that a fuzzer reaches beyond "not found".
import { writeFileSync } from 'node:fs'

const [url, to] = process.argv.slice(2)
const get = async (path) => (await fetch(url + path)).json()
const doc = await get('/api/openapi.json')
const tickets = (await get('/api/tickets')).map((t) => t.id)
const parts = []
for (const id of tickets) parts.push(...((await get(`/api/tickets/${id}`)).parts ?? []).slice(0, 6).map((p) => p.id))
const runs = []
const found = (x) => Object.values(x ?? {}).flatMap((v) => (Array.isArray(v) ? v : [])).filter((r) => r?.id)
runs.push(...found(await get('/api/reform/queue').catch(() => ({}))).map((r) => r.id))
const lots = ((await get('/api/drawers')).lots ?? []).slice(0, 10).map((l) => l.id)
const of = { tickets, parts, lots, drawers: lots, runs }
let named = 0
for (const [path, methods] of Object.entries(doc.paths)) {
  const [, kind] = path.match(/^\/api\/(?:reform\/)?([a-z]+)\/\{id\}/) ?? []
  const known = of[kind]
  if (!known?.length) continue
  for (const operation of Object.values(methods))
    for (const p of operation.parameters ?? [])
      // A ticket that is deleted has nothing more to ask.
      if (p.in === 'path' && p.name === 'id' && operation !== methods.delete) {
        p.schema = { type: 'string', enum: known }
        named++
      }
}
writeFileSync(to, JSON.stringify(doc))
console.log(`${named} operations ask for what is there`)
