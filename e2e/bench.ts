import { test as base, expect, type APIRequestContext, type Locator, type Page } from '@playwright/test'

/** The columns of a lot as the specs write them. */
export const LOT_HEADER = 'kind,family,type,value,tolerance,volts,watts,safety,count,place,condition,price,low_water'

/** What the specs do with the bench. */
export class Bench {
  constructor(
    readonly page: Page,
    readonly api: APIRequestContext,
  ) {}

  get line(): Locator {
    return this.page.locator('#owl-line')
  }
  get understood(): Locator {
    return this.page.locator('#owl-understood')
  }
  get station(): Locator {
    return this.page.getByRole('region', { name: 'Station' })
  }
  get verdict(): Locator {
    return this.page.getByTestId('verdict')
  }

  strip(name: string): Locator {
    const tray = this.page.getByRole('region', { name: 'Parts on the tray' })
    return tray.getByRole('listitem').getByRole('button', { name: new RegExp(`^${name}\\b`) })
  }

  /** Opens a new ticket by the interface to programs, and its page. */
  async ticket(name: string, sentences: string[] = [], set: object = {}): Promise<string> {
    const usual = { source: 'mains transformer', devices: 'valves', school: 'test first' }
    const made = await this.api.post('/api/tickets', { data: { ...usual, name, ...set } })
    expect(made.status()).toBe(201)
    const { id } = (await made.json()) as { id: string }
    for (const text of sentences) {
      const said = await this.api.post(`/api/tickets/${id}/say`, { data: { text, key: crypto.randomUUID(), version: 1 } })
      expect(said.status(), await said.text()).toBe(200)
    }
    await this.page.goto(`/${id}`)
    await expect(this.page.locator('.tag.on', { hasText: name })).toBeVisible()
    if (sentences.length) await expect(this.page.locator('.strip').first()).toBeVisible()
    return id
  }

  /** A transistor of the open ticket that was found shorted from collector to emitter and is to go. */
  async shorted(name: string) {
    const made = await this.api.get(`/api/tickets${new URL(this.page.url()).pathname}`)
    const { parts } = (await made.json()) as { parts: { id: string; name: string }[] }
    const id = parts.find((p) => p.name === name)?.id
    const ways = [['1', '2', 0.66], ['2', '1', null], ['1', '3', 0.66], ['3', '1', null], ['2', '3', 0.003], ['3', '2', 0.003]]
    const readings = ways.map(([red, black, volts]) => ({ red, black, volts }))
    const post = async (path: string, data: object) => {
      const said = await this.api.post(`/api/parts/${id}/${path}`, { data: { key: crypto.randomUUID(), ...data } })
      expect(said.status(), await said.text()).toBe(201)
      return (await said.json()) as { version: number }
    }
    const { version } = await post('junctions', { question: { readings } })
    await post('decisions', { version, decided: 'replace' })
  }

  /** Puts lots into the drawers; each spec has a place of its own so that none takes another's. */
  async stock(rows: string) {
    const made = await this.api.post('/api/drawers/import', {
      headers: { 'content-type': 'text/csv' },
      data: `${LOT_HEADER}\n${rows}`,
    })
    expect((await made.json()).refused, await made.text()).toEqual([])
  }
  /** Says a sentence by keyboard and waits until it is taken. */
  async say(text: string) {
    await this.page.keyboard.press('/')
    await expect(this.line).toBeFocused()
    await this.line.fill(text)
    await this.page.keyboard.press('Enter')
    await expect(this.understood).toContainText('Taken')
    await this.page.keyboard.press('Escape')
  }
}

export const test = base.extend<{ bench: Bench }>({
  bench: async ({ page, request }, use) => {
    const wrong: string[] = []
    page.on('pageerror', (e) => wrong.push(e.message))
    page.on('console', (m) => {
      // The browser notes every refused request by itself; those are part of the tests.
      const counts = m.type() === 'error' || m.type() === 'warning'
      if (counts && !m.text().startsWith('Failed to load resource')) wrong.push(m.text())
    })
    page.on('request', (r) => {
      const at = new URL(r.url())
      if (at.protocol.startsWith('http') && at.hostname !== '127.0.0.1') wrong.push(`asked elsewhere: ${r.url()}`)
    })
    await use(new Bench(page, request))
    expect(wrong).toEqual([])
  },
})
export { expect }
