// Hands that write readings, each sent again under its key until it is acknowledged, as the page does; and what is there at
// the end. What goes wrong meanwhile is the business of whoever has them write.
import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { createServer } from 'node:net'
import { setTimeout as sleep } from 'node:timers/promises'

/** A port that nobody answers on. */
export function freePort() {
  return new Promise((resolve) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const { port } = s.address()
      s.close(() => resolve(port))
    })
  })
}

export class Hands {
  count = { acknowledged: 0, 'sent again': 0, 'connection cut': 0 }
  acknowledged = []
  /** What the answers said that were no acknowledgement. */
  said = {}
  /** When the last one was acknowledged, and the longest time without, since it was asked last. */
  last = performance.now()
  longest = 0
  on = true

  constructor(urls) {
    this.urls = urls
  }

  note(what) {
    this.count[what] = (this.count[what] ?? 0) + 1
  }

  async send(path, body, at = 0) {
    for (let n = at; ; n++) {
      try {
        const response = await fetch(this.urls[n % this.urls.length] + path, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
          signal: AbortSignal.timeout(10_000),
        })
        const said = await response.text()
        if (response.ok) return JSON.parse(said)
        this.note(`answer ${response.status}`)
        const detail = JSON.parse(said).detail
        this.said[detail] = (this.said[detail] ?? 0) + 1
        // 507: the disk is full. All of them are tried again.
        if (![503, 504, 507].includes(response.status)) throw new Error(`${path}: ${response.status} ${said}`)
      } catch (e) {
        if (e instanceof Error && e.message.startsWith(path)) throw e
        this.note('connection cut')
      }
      this.note('sent again')
      await sleep(100)
    }
  }

  /** Has so many of them begin. */
  async begin(many) {
    const ticket = await this.send('/api/tickets', {
      id: randomUUID(), name: 'Storm glass', source: 'mains transformer', devices: 'valves', school: 'test first',
    })
    const parts = []
    for (let i = 1; i <= many; i++) {
      const said = await this.send(`/api/tickets/${ticket.id}/say`, { text: `R${i} 4k7 10%`, key: randomUUID(), version: 1 })
      parts.push(said.written?.id ?? said.id)
    }
    this.hands = parts.map((part, i) => this.hand(part, i))
    return ticket.id
  }

  async hand(part, at) {
    for (let n = 0; this.on; n++) {
      const key = randomUUID()
      const typed = `${4.5 + (n % 50) / 100}k`
      await this.send(`/api/parts/${part}/readings`, { key, version: 1, typed, state: 'lifted' }, at)
      this.acknowledged.push(key)
      this.note('acknowledged')
      this.longest = Math.max(this.longest, performance.now() - this.last)
      this.last = performance.now()
      await sleep(5)
    }
  }

  /** Ends them, and compares what was acknowledged with what is there, beside so many readings that were there before. */
  async end(before = 0) {
    this.on = false
    await Promise.all(this.hands)
    const sql = ['-qtAXc', 'select id from reading']
    const rows = execFileSync('psql', [process.env.OWL_DATABASE_URL, ...sql], { encoding: 'utf8', maxBuffer: 1 << 28 })
    const there = new Set(rows.split('\n').filter(Boolean))
    const lost = this.acknowledged.filter((k) => !there.has(k)).length
    const doubled = rows.split('\n').filter(Boolean).length - before - new Set(this.acknowledged).size
    for (const [what, n] of Object.entries(this.count)) console.log(`${what}: ${n}`)
    console.log(`acknowledged and lost: ${lost}; there more than once, or never acknowledged: ${doubled}`)
    process.exitCode = lost || doubled ? 1 : 0
  }
}
