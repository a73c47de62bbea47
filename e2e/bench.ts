import { test as base, expect, type APIRequestContext, type Locator, type Page } from '@playwright/test'

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
  async ticket(name: string, sentences: string[] = [], set = 'isolated'): Promise<string> {
    const made = await this.api.post('/api/tickets', { data: { name, class: set, school: 'test first' } })
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
