import { AxeBuilder } from '@axe-core/playwright'
import { expect, test } from './bench'

/** Every view, as it lies in the address; the cards of a tool that keeps its page by itself are opened by its tabs. */
const STEPS = ['R3/read', 'R6/measure', 'V4/measure', 'C18/judge', 'R9/fit', 'R12/prove']
const STAGES = ['intake', 'power', 'chart', 'feed', 'changes', 'close', 'banks', 'sockets']
const TOOLS = ['reader', 'cards', 'drawers', 'networks', 'supply', 'reform', 'transistors', 'workshop']
const TABBED = ['drawers', 'supply', 'transistors', 'workshop']

/** Between bench and phone only what is laid out otherwise is looked at; the tools keep their layout. */
const SIZES = [
  { name: 'at the bench, by night and by day', width: 1280, height: 800, job: true, day: true },
  { name: 'in the tools, by night and by day', width: 1280, height: 800, job: false, day: true },
  { name: 'on a tablet', width: 820, height: 1180, job: true, day: false },
  { name: 'on a phone', width: 390, height: 844, job: true, day: false },
]

for (const size of SIZES) {
  test(`axe finds nothing ${size.name}`, async ({ page }) => {
    // As long as it takes: how fast a machine is, is not asked here.
    test.setTimeout(900_000)
    page.setDefaultTimeout(60_000)
    await page.setViewportSize(size)
    // Colours that are on their way to others are none.
    await page.emulateMedia({ reducedMotion: 'reduce' })
    const found: string[] = []
    const by = async (view: string, axe: AxeBuilder) => {
      const { violations } = await axe.analyze()
      found.push(...violations.map((v) => `${view}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`))
    }
    const light = () => page.evaluate(() => document.documentElement.classList.toggle('day'))
    const look = async (view: string) => {
      await expect(page.locator('#owl-line')).toBeAttached()
      // What is not there yet is looked at as it is: a slow machine sees less, and nothing wrong.
      await page.waitForTimeout(300)
      await by(view, new AxeBuilder({ page }))
      if (!size.day) return
      // By day only the colours are others.
      await light()
      await by(`${view}, by day`, new AxeBuilder({ page }).withRules(['color-contrast']))
      await light()
    }
    const tickets = await (await page.request.get('/api/tickets')).json()
    const id = tickets.find((t: { name: string }) => t.name === 'Tidewright Heron 7').id
    for (const step of size.job ? STEPS : []) {
      await page.goto(`/${id}/${step}`)
      await expect(page.locator('.station .step, .station .none').first()).toBeAttached()
      await look(step)
    }
    for (const stage of size.job ? STAGES : []) {
      await page.goto(`/${id}?tool=job&card=${stage}`)
      await look(stage)
    }
    for (const tool of size.job ? [] : TOOLS) {
      await page.goto(`/${id}?tool=${tool}`)
      await look(tool)
      if (!TABBED.includes(tool)) continue
      const tabs = page.locator('section > nav > button:not(.back)')
      for (let n = 1; n < (await tabs.count()); n++) {
        await tabs.nth(n).click()
        await look(`${tool}, ${await tabs.nth(n).innerText()}`)
      }
    }
    await page.goto(`/${id}`)
    await page.keyboard.press('?')
    await look('keys')
    expect(found).toEqual([])
  })
}
